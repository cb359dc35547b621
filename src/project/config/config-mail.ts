import { finding, isError, type Finding, type Report } from '../../core/findings/finding.js';
import type { PlaceOf } from '../../core/yaml/yaml-places.js';
import type { MailServer, Security } from '../../mail/mail-server.js';
import type { RawMail, RawServer } from './config-schema.js';
import { filledSetting, secretSetting, settingAt, type Environment, type Setting } from './settings.js';

/** A mail server of the configuration. What the environment adds is not known yet. */
export interface ServerSetting {
  readonly host: Setting;
  readonly port: Setting | null;
  readonly security: Security;
  readonly user: Setting | null;
  readonly password: Setting | null;
  readonly seconds: number;
  /** The key that it stands under: `mail.smtp`. */
  readonly key: string;
}

/** What a project says of mail. */
export interface MailSetting {
  readonly smtp: ServerSetting | null;
  /** How many mails go out in a minute, at most. */
  readonly perMinute: number;
  readonly imap: ServerSetting | null;
  /** The folder that drafts go to; null for that which the server marks as such. */
  readonly drafts: string | null;
  /** Who gets proofs, where the command names nobody. */
  readonly readers: readonly string[];
}

/** Where a project says nothing of mail. */
export const noMail: MailSetting = { smtp: null, perMinute: 60, imap: null, drafts: null, readers: [] };

/** The seconds that a server may let one wait, and the mails that go out in a minute, where nothing is said. */
const USUAL_SECONDS = 30;
const USUAL_PER_MINUTE = 60;

/** Reads `mail` of the configuration. */
export function readMailSetting(raw: RawMail | undefined, placeOf: PlaceOf): MailSetting {
  const { smtp, imap, readers = [] } = raw ?? {};
  return {
    smtp: smtp === undefined ? null : readServer(smtp, 'smtp', 'starttls', placeOf),
    perMinute: smtp?.per_minute ?? USUAL_PER_MINUTE,
    imap: imap === undefined ? null : readServer(imap, 'imap', 'tls', placeOf),
    drafts: imap?.drafts ?? null,
    readers,
  };
}

function readServer(raw: RawServer, name: string, security: Security, placeOf: PlaceOf): ServerSetting {
  const path = ['mail', name];
  const setting = (key: 'host' | 'port' | 'user' | 'password'): Setting | null =>
    settingAt([...path, key], raw[key] === undefined ? undefined : String(raw[key]), placeOf);
  return {
    host: setting('host') ?? { key: `${path.join('.')}.host`, text: '', place: placeOf(path) },
    port: setting('port'),
    security: raw.security ?? security,
    user: setting('user'),
    password: setting('password'),
    seconds: raw.timeout ?? USUAL_SECONDS,
    key: path.join('.'),
  };
}

/** The ports that mail servers listen on (RFC 8314, RFC 6409, RFC 9051), by how the connection is kept private. */
const ports: Readonly<Record<'smtp' | 'imap', Readonly<Record<Security, number>>>> = {
  smtp: { tls: 465, starttls: 587, none: 25 },
  imap: { tls: 993, starttls: 143, none: 143 },
};

/** A server with what the environment says. Null, with findings, where a variable is missing or it would give a password away. */
export function resolveServer(
  setting: ServerSetting,
  protocol: 'smtp' | 'imap',
  environment: Environment,
  given: Report,
): MailServer | null {
  const findings: Finding[] = [];
  const report = (item: Finding): void => {
    findings.push(item);
    given(item);
  };
  const host = (filledSetting(setting.host, environment, report) ?? '').trim();
  const portText = filledSetting(setting.port, environment, report);
  const port = portText === null ? ports[protocol][setting.security] : Number(portText);
  const user = filledSetting(setting.user, environment, report);
  const password = secretSetting(setting.password, environment, report);
  if (findings.some(isError)) return null;
  const wrong = (detail: string): unknown =>
    report(finding('server-wrong', setting.host.place, { key: setting.key, detail }));
  if (!/^(?:[\p{L}\d](?:[\p{L}\d.-]*[\p{L}\d])?|\[?[\da-f:.]+\]?)$/iu.test(host)) wrong('host is no name of a server');
  if (!Number.isInteger(port) || port < 1 || port > 65_535) wrong('port is no number from 1 to 65535');
  if ((user === null) !== (password === null)) wrong('user and password belong together');
  if (setting.security === 'none' && !isLoopback(host)) wrong('security: none is only for servers on this machine');
  if (findings.some(isError)) return null;
  const login = user === null || password === null ? null : { user, password };
  return {
    host: host.replace(/^\[|\]$/g, ''),
    port,
    security: setting.security,
    login,
    milliseconds: setting.seconds * 1000,
  };
}

/** That a project names no server; what to write, and for proofs what does without one. */
export function missingServer(protocol: 'smtp' | 'imap'): Finding {
  const isSmtp = protocol === 'smtp';
  return finding('server-missing', null, {
    does: isSmtp ? 'sends mail' : 'keeps drafts',
    key: protocol,
    example: `host: ${protocol}.yours.example, user: …, password: '\${env.${protocol.toUpperCase()}_KEY}'`,
    advice: isSmtp
      ? ' To try it without: inscriba standin, and smtp: { host: localhost, port: 4025, security: none }.'
      : '',
  });
}

function isLoopback(host: string): boolean {
  return /^(?:localhost|127(?:\.\d{1,3}){3}|\[?::1\]?)$/i.test(host);
}
