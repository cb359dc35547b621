/** What a message came to at one time, for a destination. */
export interface MessageAt {
  readonly html: string;
  readonly text: string;
  readonly subject: string;
  readonly preheader: string | null;
  /** The addresses that its links lead to. */
  readonly links: readonly string[];
  /** Its merge tags, as they are written in its source. */
  readonly tags: readonly string[];
  /** The names of its pictures, which are new whenever their content is. */
  readonly pictures: readonly string[];
  /** What was found in it, in words. */
  readonly findings: readonly string[];
}

/** What came and what went of a list. */
export interface ListChange {
  readonly added: readonly string[];
  readonly removed: readonly string[];
}

/** What differs between two times of a message. */
export interface MessageChange {
  readonly isSameBytes: boolean;
  /** The paragraphs of its text that went and came; null where the words are the same. */
  readonly words: ListChange | null;
  readonly links: ListChange | null;
  readonly tags: ListChange | null;
  readonly pictures: ListChange | null;
  readonly findings: ListChange | null;
  /** Of the HTML, in bytes, before and after; null where it is the same. */
  readonly weight: { readonly before: number; readonly after: number } | null;
}

/** Compares what a message was with what it is. */
export function compareStates(before: MessageAt, after: MessageAt): MessageChange {
  const said = ({ subject, preheader, text }: MessageAt): string[] => [
    `subject: ${subject}`,
    ...(preheader === null ? [] : [`preheader: ${preheader}`]),
    // A paragraph is one thing, wherever its lines are broken.
    ...text.split(/\n\s*\n/).map((paragraph) => paragraph.replace(/\s+/g, ' ').trim()),
  ];
  const sizes = [before, after].map(({ html }) => new TextEncoder().encode(html).length);
  const [was = 0, is = 0] = sizes;
  const lists = {
    words: listChange(said(before), said(after)),
    links: listChange(before.links, after.links),
    tags: listChange(before.tags, after.tags),
    pictures: listChange(before.pictures, after.pictures),
  };
  return {
    ...lists,
    isSameBytes:
      before.html === after.html && before.text === after.text && Object.values(lists).every((list) => list === null),
    findings: listChange(before.findings, after.findings),
    weight: was === is ? null : { before: was, after: is },
  };
}

/** What came and went, each as often as it did; null where nothing did. What only stands elsewhere counts for nothing. */
function listChange(before: readonly string[], after: readonly string[]): ListChange | null {
  const removed = without(before, after);
  const added = without(after, before);
  return removed.length === 0 && added.length === 0 ? null : { added, removed };
}

function without(list: readonly string[], other: readonly string[]): string[] {
  const left = new Map<string, number>();
  for (const item of other) left.set(item, (left.get(item) ?? 0) + 1);
  return list.filter((item) => {
    const count = left.get(item) ?? 0;
    left.set(item, count - 1);
    return count <= 0;
  });
}

/** Whether anything but the look differs, in the order in which it matters to readers. */
export function changedParts(change: MessageChange): string[] {
  const parts = ['words', 'links', 'tags', 'pictures', 'findings', 'weight'] as const;
  return parts.filter((part) => change[part] !== null);
}
