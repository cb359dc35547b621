/** What a server answers. */
export interface Answer {
  readonly status: number;
  readonly type: string;
  readonly body: string | Uint8Array;
  readonly headers?: Readonly<Record<string, string>>;
}

/** What the preview's own pages may do: run its script, ask its server, and show frames of it. */
const OWN_POLICY = [
  "default-src 'none'",
  "script-src 'self'",
  "style-src 'self'",
  "img-src 'self'",
  "connect-src 'self'",
  "frame-src 'self'",
  "base-uri 'none'",
  "form-action 'none'",
  "frame-ancestors 'none'",
].join('; ');

/** What a message may do: show itself. Its pictures and fonts may come from anywhere, but nothing runs. */
const MESSAGE_POLICY = [
  "default-src 'none'",
  'img-src * data:',
  "style-src 'unsafe-inline' *",
  'font-src * data:',
  "base-uri 'none'",
  "form-action 'none'",
  "frame-ancestors 'self'",
  'sandbox allow-same-origin',
].join('; ');

export function ownPage(body: string): Answer {
  return {
    status: 200,
    type: 'text/html; charset=utf-8',
    body,
    headers: { 'content-security-policy': OWN_POLICY },
  };
}

export function messagePage(body: string): Answer {
  return {
    status: 200,
    type: 'text/html; charset=utf-8',
    body,
    headers: { 'content-security-policy': MESSAGE_POLICY },
  };
}

export function plain(status: number, text: string): Answer {
  return { status, type: 'text/plain; charset=utf-8', body: text };
}

export function json(value: unknown): Answer {
  return { status: 200, type: 'application/json; charset=utf-8', body: JSON.stringify(value) };
}
