/** A newsletter of about so many bytes, styled by so many rules; each element is reached by a few of them. */
export function newsletter(bytes, ruleCount) {
  const rules = Array.from({ length: ruleCount }, (_, n) => {
    const body = `color:#${((n * 7919) % 4096).toString(16).padStart(3, '0')};padding:${n % 20}px ${n % 7}px`;
    if (n % 10 === 9) return `@media (max-width:${400 + (n % 3) * 100}px){.c${n}{${body}}}`;
    return [`.c${n}{${body}}`, `td.c${n}{${body}}`, `.block .c${n}{${body}}`, `#r${n} p{${body}}`][n % 4];
  });
  const block = (n) =>
    `<table class="block" id="r${n}"><tbody><tr><td class="c${n % ruleCount} c${(n + 1) % ruleCount}"><p class="c${(n + 2) % ruleCount}">A line of text about drills, ladders and planes.</p><a class="c${(n + 3) % ruleCount}" href="https://alderlane.example/${n}">Borrow</a></td></tr></tbody></table>\n`;
  let body = '';
  for (let n = 0; body.length < bytes; n += 1) body += block(n);
  return {
    html: `<!doctype html><html><head><style>${rules.join('\n')}</style></head><body>${body}</body></html>`,
    css: rules.join('\n'),
  };
}
