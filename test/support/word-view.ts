import { parse, type DefaultTreeAdapterMap, type ParserError } from 'parse5';

type Element = DefaultTreeAdapterMap['element'];
type ParentNode = DefaultTreeAdapterMap['parentNode'];

/** A document as the `word` engine reads it: its conditional comments opened, what is hidden from it gone. */
export function wordView(html: string): string {
  return html
    .replace(/<!--\[if !mso\]><!-->[\s\S]*?<!--<!\[endif\]-->/g, '')
    .replace(/<!--\[if mso\]>([\s\S]*?)<!\[endif\]-->/g, '$1');
}

/** What is wrong with the tables that the `word` engine gets; empty where all is well. */
export function wordProblems(html: string): string[] {
  const view = wordView(html);
  const problems: string[] = [];
  const document = parse(view, {
    sourceCodeLocationInfo: true,
    onParseError: (error: ParserError) => {
      // Vector shapes close themselves, which HTML does not know.
      if (!/trailing-solidus/.test(error.code))
        problems.push(`${error.code} at ${view.slice(error.startOffset, error.startOffset + 60)}`);
    },
  });
  checkTags(document, problems);
  checkWidths(document, 1000, problems);
  return problems;
}

/** Every element that the parser made must come from a tag, and be closed by one. */
function checkTags(node: ParentNode, problems: string[]): void {
  for (const child of node.childNodes) {
    if (!('tagName' in child)) continue;
    const location = child.sourceCodeLocation;
    const isVoid = /^(?:meta|img|br|hr|wbr|link|v:fill)$/.test(child.tagName);
    if (child.tagName !== 'tbody' && (!location?.startTag || (!isVoid && !location.endTag)))
      problems.push(`<${child.tagName}> is not opened and closed`);
    if (child.tagName === 'img' && child.attrs.some(({ name, value }) => name === 'width' && value === '0'))
      problems.push('a picture without a width');
    checkTags(child, problems);
  }
}

/** The cells of each row must add up to the width that the row has, as this engine scales nothing. */
function checkWidths(node: ParentNode, available: number, problems: string[]): void {
  for (const child of node.childNodes) {
    if (!('tagName' in child)) continue;
    if (child.tagName === 'table') {
      const width = numberOf(child, 'width', available) ?? available;
      if (width > available + 1) problems.push(`a table of ${width} px in ${available} px`);
      checkRows(child, width, problems);
    } else checkWidths(child, available, problems);
  }
}

function checkRows(table: ParentNode, width: number, problems: string[]): void {
  for (const child of table.childNodes) {
    if (!('tagName' in child)) continue;
    if (child.tagName !== 'tr') {
      checkRows(child, width, problems);
      continue;
    }
    const cells = child.childNodes.filter((cell): cell is Element => 'tagName' in cell && /^t[dh]$/.test(cell.tagName));
    const widths = cells.map((cell) => numberOf(cell, 'width', width));
    const sum = widths.reduce<number>((total, own) => total + (own ?? 0), 0);
    const complete = widths.every((own) => own !== null);
    if (sum > width + cells.length) problems.push(`cells of ${sum} px in a row of ${width} px`);
    if (complete && cells.length > 0 && sum < width - cells.length)
      problems.push(`cells of only ${sum} px in a row of ${width} px`);
    cells.forEach((cell, index) => {
      const own = widths[index] ?? (cells.length === 1 ? width : width - sum);
      checkWidths(cell, own - sidePadding(cell), problems);
    });
  }
}

function numberOf(element: Element, name: string, available: number): number | null {
  const value = element.attrs.find((attribute) => attribute.name === name)?.value ?? '';
  if (/^\d+%$/.test(value)) return (Number.parseInt(value, 10) / 100) * available;
  return /^\d+$/.test(value) ? Number(value) : null;
}

function sidePadding(cell: Element): number {
  const style = cell.attrs.find((attribute) => attribute.name === 'style')?.value ?? '';
  const values = (/(?:^|;)padding:([^;]+)/.exec(style)?.[1] ?? '0').split(' ').map((part) => Number.parseFloat(part));
  const [top = 0, right = top, , left = right] = values;
  return left + right;
}
