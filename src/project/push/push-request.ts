import type { Finding } from '../../core/findings/finding.js';
import type { PushedTemplate } from '../../platforms/push-template.js';
import type { Environment } from '../config/settings.js';
import type { VisitRequest } from '../visit/choose-messages.js';
import type { VisitProgress } from '../visit/visit-messages.js';

/** What to push, and how. */
export interface PushRequest extends VisitRequest {
  readonly environment: Environment;
  /** The folder of the record of deliveries. */
  readonly recordFolder: string;
  /** Whether requests are only told, and nothing is sent. */
  readonly isDry: boolean;
  readonly isForced: boolean;
}

/** Who is told on the way, and asked. */
export interface PushListener {
  readonly done: (outcome: PushOutcome) => void;
  readonly progress: (progress: VisitProgress) => void;
  /** Whether a template that is gone there is made anew. */
  readonly makesAnew: (what: string, destination: string) => Promise<boolean>;
}

/** What came of an edition at a destination. */
export interface PushOutcome {
  readonly message: string;
  readonly edition: string | null;
  readonly destination: string;
  readonly how: PushedTemplate['how'] | 'planned';
  readonly link: string | null;
  /** How many pictures were sent for it, beside those that travel in what is sent. */
  readonly pictures: number;
  /** The bytes of its HTML. */
  readonly weight: number;
  /** The requests that a push would make, as people read them; for a push that only tells them. */
  readonly requests: readonly string[];
  readonly findings: readonly Finding[];
}

/** An outcome before anything came of it. */
export const blankOutcome: PushOutcome = {
  message: '',
  edition: null,
  destination: '',
  how: 'failed',
  link: null,
  pictures: 0,
  weight: 0,
  requests: [],
  findings: [],
};
