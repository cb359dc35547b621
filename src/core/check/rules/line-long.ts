import { thousands } from '../../text/amounts.js';
import type { Rule } from '../facts/rule.js';

export const lineLong: Rule = {
  code: 'line-long',
  group: 'structure',
  severity: 'note',
  sentence: 'This line has {count} bytes',
  remedy: 'Break the lines of the HTML.',
  why: 'A line of a mail has at most 998 bytes (RFC 5322, 2.1.1). What sends it breaks longer ones where it likes, at worst within an address.',
  bad: { html: `<p>${'Saws and planes and drills. '.repeat(50)}</p>` },
  good: '<p>Saws and planes.</p>',
  needs: ['finished'],
  *find(page) {
    let start = 0;
    for (const line of page.doc.source.text.split('\n')) {
      const bytes = line.length > MOST_BYTES / 3 ? new TextEncoder().encode(line).length : line.length;
      if (bytes > MOST_BYTES) {
        yield {
          place: page.place({ start, end: start + Math.min(line.length, 60) }),
          data: { count: thousands(bytes) },
        };
        return;
      }
      start += line.length + 1;
    }
  },
};

const MOST_BYTES = 998;
