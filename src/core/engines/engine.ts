/** Families of mail programs that show pages alike. */
export const engineNames = ['word', 'strict-webmail', 'webmail', 'app', 'webkit'] as const;

export type EngineName = (typeof engineNames)[number];

/** What an engine makes of a feature; one that drops takes along the style rule that holds it, or the whole style element. */
export const supports = ['yes', 'partly', 'no', 'drops-the-rule', 'drops-the-sheet'] as const;

export type Support = (typeof supports)[number];

/** What readers lose: something cannot be read, seen or clicked; it stands elsewhere; it looks plainer. */
export const harms = ['content', 'layout', 'look'] as const;

export type Harm = (typeof harms)[number];

export const featureKinds = ['properties', 'at-rules', 'selectors', 'elements', 'attributes', 'pictures'] as const;

export type FeatureKind = (typeof featureKinds)[number];

/** What makes up for a feature where it stands on the same element. */
export const fallbacks = ['width-attribute', 'align-attribute'] as const;

export type Fallback = (typeof fallbacks)[number];

/** A feature of HTML or CSS, and what becomes of it. */
export interface Feature {
  readonly kind: FeatureKind;
  /** `max-width`, `display: flex`, `@media print`, `:has()`, `video`, `webp`. */
  readonly name: string;
  readonly support: Readonly<Record<EngineName, Support>>;
  readonly harm: Harm;
  readonly fallback: Fallback | null;
  /** What happens where it does not work, as the beginning of a sentence. */
  readonly happens: string;
  /** What to write instead, as a sentence. */
  readonly instead: string;
}

/** The engines in which a feature does not work. */
export function enginesWithout({ support }: Feature, engines: readonly EngineName[] = engineNames): EngineName[] {
  return engines.filter((name) => support[name] !== 'yes' && support[name] !== 'partly');
}
