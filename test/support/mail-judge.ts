import { spawnSync } from 'node:child_process';

/** A part of a mail, as Python's `email` reads it. */
export interface JudgedPart {
  readonly type: string;
  readonly contentId: string | null;
  readonly name: string | null;
  readonly disposition: string | null;
  readonly sha256: string | null;
  readonly parts: readonly JudgedPart[];
}

/** A mail, as Python's `email` reads it. */
export interface JudgedMail {
  /** What it finds wrong in the mail or in any of its parts. */
  readonly defects: readonly string[];
  readonly headers: readonly (readonly [name: string, value: string])[];
  readonly text: string;
  readonly html: string;
  readonly root: JudgedPart;
}

const script = `
import email, email.policy, hashlib, json, sys
mail = email.message_from_binary_file(sys.stdin.buffer, policy=email.policy.SMTP)
defects = []
def part(node):
    defects.extend(repr(defect) for defect in node.defects)
    for name, value in node.items():
        defects.extend(name + ': ' + repr(defect) for defect in value.defects)
    leaf = None if node.is_multipart() else node.get_payload(decode=True)
    return {
        'type': node.get_content_type(),
        'contentId': node.get('content-id'),
        'name': node.get_filename(),
        'disposition': node.get_content_disposition(),
        'sha256': None if leaf is None else hashlib.sha256(leaf).hexdigest(),
        'parts': [part(child) for child in node.iter_parts()] if node.is_multipart() else [],
    }
root = part(mail)
def body(kind):
    found = mail.get_body((kind,))
    return '' if found is None else found.get_content()
json.dump({
    'defects': defects,
    'headers': [[name, str(value)] for name, value in mail.items()],
    'text': body('plain'),
    'html': body('html'),
    'root': root,
}, sys.stdout)
`;

/** Reads a mail with Python's `email`, which keeps to the standards and says what does not. */
export function judgeMail(bytes: Uint8Array): JudgedMail {
  const { status, stdout, stderr } = spawnSync('python3', ['-c', script], {
    input: bytes,
    encoding: 'utf8',
    maxBuffer: 64 * 1024 * 1024,
  });
  if (status !== 0) throw new Error(stderr);
  return JSON.parse(stdout) as JudgedMail;
}

/** The value of a header; undefined where there is none. */
export function headerOf({ headers }: JudgedMail, name: string): string | undefined {
  return headers.find(([own]) => own.toLowerCase() === name.toLowerCase())?.[1];
}

/** The tree of parts in one line: `multipart/alternative(text/plain, text/html)`. */
export function structureOf({ type, parts }: JudgedPart): string {
  return parts.length === 0 ? type : `${type}(${parts.map(structureOf).join(', ')})`;
}
