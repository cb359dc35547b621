import { spawnSync } from 'node:child_process';
import { join } from 'node:path';

/** A certificate for this machine, signed by itself. */
export interface Certificate {
  readonly key: string;
  readonly certificate: string;
}

/** Makes a certificate in a folder. */
export function makeCertificate(folder: string): Certificate {
  const files = { key: join(folder, 'key.pem'), certificate: join(folder, 'certificate.pem') };
  const { status, stderr } = spawnSync(
    'openssl',
    [
      ...['req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-days', '2', '-subj', '/CN=localhost'],
      ...['-addext', 'subjectAltName=DNS:localhost,IP:127.0.0.1', '-keyout', files.key, '-out', files.certificate],
    ],
    { encoding: 'utf8' },
  );
  if (status !== 0) throw new Error(`openssl made no certificate: ${stderr}`);
  return files;
}
