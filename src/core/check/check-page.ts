import { withoutRepeats, type CatalogueEntry, type Finding } from '../findings/finding.js';
import type { Page } from './page/page.js';
import type { Need, Rule } from './facts/rule.js';

/** What rules find on a page, in the order of the page. */
export function checkPage(page: Page, rules: readonly Rule[]): Finding[] {
  const found = rules.filter((rule) => isAnswered(rule.needs, page)).flatMap((rule) => findingsOf(rule, page));
  return withoutRepeats(found);
}

function findingsOf(rule: Rule, page: Page): Finding[] {
  const entry = entryOf(rule);
  return [...rule.find(page)].map(({ place, data = {} }) => ({ code: rule.code, place, data, entry }));
}

/** What a rule says, as the catalogue of findings has it. */
export function entryOf({ severity, sentence, remedy }: Rule): CatalogueEntry {
  return { severity, reason: sentence, fix: remedy };
}

/** Whether all that a rule has to know is known of a page. */
function isAnswered(needs: readonly Need[], { input }: Page): boolean {
  const known: Readonly<Record<Need, boolean>> = {
    finished: input.isFinished,
    compiled: input.isFinished || input.outputs.length > 0,
    pictures: input.pictures !== null,
    text: input.text !== undefined,
    project: input.project !== null,
  };
  return needs.every((need) => known[need]);
}
