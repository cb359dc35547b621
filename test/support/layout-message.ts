/** A message with a style sheet and a body, on lines that findings can be placed on: the styles begin on line 3. */
export function layoutMessage(css: string, body: string, attributes = 'lang="en"'): string {
  return `<!doctype html><html ${attributes}><head><title>Layout</title>
<style>
${css}
</style></head><body>
${body}
</body></html>
`;
}

/** Styles that most messages begin with. */
export const baseStyles =
  'body{margin:0;background:#eee;font:16px/1.5 Arial,sans-serif;color:#223}*{box-sizing:border-box}.c{max-width:600px;margin:0 auto;padding:24px;background:#fff}p{margin:0 0 12px}img{display:block}';
