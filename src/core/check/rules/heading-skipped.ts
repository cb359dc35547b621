import type { Rule } from '../facts/rule.js';

export const headingSkipped: Rule = {
  code: 'heading-skipped',
  group: 'reading',
  severity: 'note',
  sentence: 'After <h{before}> comes <h{level}>',
  remedy: 'Write <h{next}>, and give it the size by a style.',
  why: 'Who hears the mail goes from heading to heading, and looks for the one that is left out (WCAG 2.2, 1.3.1).',
  bad: '<h1>Repair Day</h1><h4>What to bring</h4><p>Tools</p>',
  good: '<h1>Repair Day</h1><h2>What to bring</h2><p>Tools</p>',
  needs: [],
  *find(page) {
    let before = 0;
    for (const element of page.withTag('h1', 'h2', 'h3', 'h4', 'h5', 'h6')) {
      const level = Number(element.tag[1]);
      if (before > 0 && level > before + 1)
        yield {
          place: page.placeOf(element),
          data: { before: String(before), level: String(level), next: String(before + 1) },
        };
      before = level;
    }
  },
};
