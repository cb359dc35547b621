import type { CatalogueEntry } from './entry.js';

/** Pushes: what keeps a template from being put into a platform, and what was found there. */
export const pushFindings = {
  'push-name': {
    severity: 'error',
    usage: true,
    reason: 'No value is called {name} here',
    fix: '{advice}',
  },
  'exchange-request': {
    severity: 'error',
    reason: 'The description makes another request of this: {detail}',
    fix: 'Correct the recorded exchange, or the request that it proves.',
  },
  'exchange-taken': {
    severity: 'error',
    reason: 'The description takes something else of this answer: {detail}',
    fix: 'Correct the recorded exchange, or take and error of what it proves.',
  },
  'push-undescribed': {
    severity: 'error',
    usage: true,
    reason: 'The dialect {dialect} does not say how anything is pushed to {name}',
    fix: 'Describe its interface under push: in its dialect file, or import what inscriba pack makes by hand.',
  },
  'push-nowhere': {
    severity: 'error',
    usage: true,
    reason: 'No destination says where it is pushed to',
    fix: 'Add push: { url: … } to a destination in inscriba.yaml.',
  },
  'push-address': {
    severity: 'error',
    usage: true,
    reason: '{name} does not say where it is pushed to',
    fix: 'Add to inscriba.yaml, under destinations.{name}: push: { {example} }.',
  },
  'push-setting-missing': {
    severity: 'error',
    usage: true,
    reason: '{name} needs {key}: {about}',
    fix: 'Add it to inscriba.yaml, under destinations.{name}.push: {example}.',
  },
  'push-setting-unknown': {
    severity: 'error',
    usage: true,
    reason: 'The dialect {dialect} knows no setting {key}',
    fix: '{advice}',
  },
  'secret-command': {
    severity: 'error',
    usage: true,
    reason: 'The command under {key} gave no secret: {detail}',
    fix: 'Run it by hand to see why; what it prints on its first line is the secret.',
  },
  'push-pictures': {
    severity: 'error',
    usage: true,
    reason: '{title} takes pictures {way}, and those of {name} travel otherwise (images: { mode: {mode} })',
    fix: 'Set images: { mode: {wanted} } for {name} in inscriba.yaml.',
  },
  'push-attachments': {
    severity: 'warning',
    reason: 'The attachments of {what} ({names}) do not travel to {name}: its interface takes none',
    fix: 'Attach them there, or link to them in the message.',
  },
  'push-running': {
    severity: 'error',
    usage: true,
    reason: 'Another push of this project is running (process {process})',
    fix: 'Wait until it has ended.',
  },
  'deliveries-wrong': {
    severity: 'error',
    usage: true,
    reason: '{path} cannot be read: {detail}',
    fix: 'Bring back its last good version from your version control: without it templates would be made twice.',
  },
  'push-unreachable': {
    severity: 'error',
    service: true,
    reason: '{host} cannot be reached: {detail}',
    fix: 'See that the address under push is right and that the platform is there, and push again: what was done is not done twice.',
  },
  'push-broken': {
    severity: 'error',
    service: true,
    reason: '{host} did not finish its answer to {what}: {detail}',
    fix: 'Push again: what was done is looked up, and not done twice.',
  },
  'push-login': {
    severity: 'error',
    service: true,
    reason: '{host} does not let you in: {answer}',
    fix: 'Correct {keys} under destinations.{name}.push in inscriba.yaml, or what the environment has for it.',
  },
  'push-right': {
    severity: 'error',
    service: true,
    reason: '{host} does not allow {what}: {answer}',
    fix: 'Give the key or the token that right on the platform, and push again.',
  },
  'push-heavy': {
    severity: 'error',
    service: true,
    reason: '{host} finds {what} too heavy: {answer}',
    fix: 'Make it lighter, and push again. inscriba check says what weighs.',
  },
  'push-busy': {
    severity: 'error',
    service: true,
    reason: '{host} is asked too often, also after {tries} tries ({what}): {answer}',
    fix: 'Wait a while, and push again; limits: { requests_per_second: … } under push in the dialect file keeps below its limit.',
  },
  'push-failed': {
    severity: 'error',
    service: true,
    reason: '{host} failed, also after {tries} tries ({what}): {answer}',
    fix: 'Push again later: what was done is looked up, and not done twice.',
  },
  'push-refused': {
    severity: 'error',
    service: true,
    reason: '{host} refuses {what}: {answer}',
    fix: 'Do what the answer says, and push again.',
  },
  'push-answer': {
    severity: 'error',
    service: true,
    reason: '{host} answered {what} otherwise than the dialect {dialect} says: {detail}',
    fix: 'See that the address under push is that of the interface; if it is, correct take under push in the dialect file.',
  },
  'push-gone': {
    severity: 'error',
    reason: 'The template of {what} is no longer at {name} (it was {id})',
    fix: 'Push with --yes to make it anew.',
  },
  'push-changed-there': {
    severity: 'error',
    reason: 'Somebody has changed the template of {what} at {name} since the last push ({id})',
    fix: 'Bring the change into the message, or push with --force to put yours in its place.',
  },
  'push-differs-there': {
    severity: 'warning',
    reason:
      'Somebody has changed the template of {what} at {name} since the last push ({id}); here nothing has changed',
    fix: 'Bring the change into the message, or push with --force to put yours back.',
  },
  'push-name-taken': {
    severity: 'error',
    reason: 'There is a template called {what} at {name} that no push from here is on record for ({id})',
    fix: 'Rename the message, or push with --force to put yours in its place; deliveries.json may be missing from your version control.',
  },
  'push-left-over': {
    severity: 'warning',
    reason: '{name} has a template of {what}, which is no message any more ({id})',
    fix: 'Delete it there, and its line in deliveries.json; if the message was renamed, write its new name into that line.',
  },
  'push-unsettled': {
    severity: 'error',
    service: true,
    reason: '{host} may have made the template of {what}, and gives it back in no way that can be compared',
    fix: 'Look whether it is there. Then push with --force to take it over, or delete it and push again.',
  },
} as const satisfies Record<string, CatalogueEntry>;
