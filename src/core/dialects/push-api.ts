/** A JSON Pointer (RFC 6901). */
export type Pointer = string;

/** What a request holds, as its description says it: JSON, in whose texts `${names}` stand for values. */
export type SendPattern =
  string | number | boolean | null | readonly SendPattern[] | { readonly [key: string]: SendPattern };

/** How the content of a request travels. */
export const bodyKinds = ['none', 'json', 'form', 'multipart', 'bytes'] as const;

export type BodyKind = (typeof bodyKinds)[number];

export const requestMethods = ['GET', 'POST', 'PUT', 'PATCH', 'DELETE'] as const;

export type RequestMethod = (typeof requestMethods)[number];

/** One request of a platform's interface, and what of its answer is taken. */
export interface Exchange {
  readonly method: RequestMethod;
  /** From the address of the interface; what fills its `${names}` is percent-encoded. */
  readonly path: string;
  readonly headers: Readonly<Record<string, string>>;
  readonly body: BodyKind;
  readonly send: SendPattern;
  /** The field of a form that a file goes in: a picture, or the zip of a message. */
  readonly file: string | null;
  /** The field of a form that each picture of a message goes in. */
  readonly pictures: string | null;
  /** By the names that later requests use: where in the answer, or in each of its items, the value stands. */
  readonly take: Readonly<Record<string, Pointer>>;
  /** Where the list stands that is looked through; null where the answer is the thing itself. */
  readonly items: Pointer | null;
  /** Where the address of the next page stands, or what is sent as a parameter to get it. */
  readonly next: { readonly at: Pointer; readonly parameter: string | null } | null;
}

/** How a platform knows who asks. */
export type SignIn =
  | { readonly kind: 'none' }
  | { readonly kind: 'header'; readonly name: string; readonly value: string }
  | { readonly kind: 'basic'; readonly user: string; readonly password: string }
  | { readonly kind: 'bearer'; readonly token: string }
  | {
      /** RFC 6749, 4.4. */
      readonly kind: 'client_credentials';
      readonly tokenPath: string;
      readonly id: string;
      readonly secret: string;
      readonly scope: string | null;
    };

/** A value that a project has to name to use an interface. */
export interface ApiSetting {
  readonly about: string;
  /** True for what nobody may see. */
  readonly secret: boolean;
  /** What it is where a project names none; null where it has to. */
  readonly usual: string | null;
}

/**
 * How pictures reach a platform: beside the HTML in what is sent, into its own store by `picture`, or not at all, so that they
 * have to be on the web already.
 */
export const pictureWays = ['beside', 'store', 'elsewhere'] as const;

export type PictureWay = (typeof pictureWays)[number];

/** How a platform's programming interface takes templates. Read from `push:` of a dialect file. */
export interface PushApi {
  readonly settings: Readonly<Record<string, ApiSetting>>;
  readonly signIn: SignIn;
  /** What each request says besides. */
  readonly headers: Readonly<Record<string, string>>;
  readonly pictureWay: PictureWay;
  readonly picture: (Exchange & { readonly address: string; readonly find: Exchange | null }) | null;
  /** A folder or category of templates, which is found, or made. */
  readonly folder: { readonly name: string; readonly find: Exchange; readonly create: Exchange } | null;
  /** True where no two templates can have one name. */
  readonly namesAreUnique: boolean;
  readonly find: Exchange;
  readonly read: Exchange | null;
  readonly create: Exchange;
  readonly update: Exchange;
  /** The statuses by which it says that a template is gone. */
  readonly gone: readonly number[];
  readonly requestsPerSecond: number | null;
  readonly atOnce: number;
  /** Where it says why it refuses something. */
  readonly errorMessage: Pointer | null;
}

/** The requests of an interface, by their names. */
export const stepNames = [
  'picture',
  'find_picture',
  'find_folder',
  'create_folder',
  'find',
  'read',
  'create',
  'update',
] as const;

export type StepName = (typeof stepNames)[number];

/** A request of an interface by its name; null where it has none. */
export function stepOf(api: PushApi, name: StepName): Exchange | null {
  switch (name) {
    case 'picture':
      return api.picture;
    case 'find_picture':
      return api.picture?.find ?? null;
    case 'find_folder':
      return api.folder?.find ?? null;
    case 'create_folder':
      return api.folder?.create ?? null;
    default:
      return api[name];
  }
}

/** A request and its answer, as they went over the wire once: what proves a description. */
export interface RecordedExchange {
  readonly step: StepName;
  /** What the values were, by their names (`message.name`). */
  readonly values: Readonly<Record<string, SendPattern>>;
  readonly request: {
    readonly line: string;
    readonly headers: Readonly<Record<string, string>>;
    readonly body: SendPattern;
  };
  readonly answer: { readonly status: number; readonly body: SendPattern };
  /** What is taken of the answer; null where it refuses. */
  readonly takes: Readonly<Record<string, string>> | null;
  /** The sentence that it refuses with; null where it does not. */
  readonly says: string | null;
}
