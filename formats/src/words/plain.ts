import { plainRows, type Block, type Content } from '@libretto/model/content';

/** A document as plain text: a form feed between pages, tables with tabs. */
export function writeText({ pages }: Content): string {
  return `${pages.map((blocks) => blocks.flatMap(asText).join('\n\n')).join('\n\f\n')}\n`;
}

/** Pictures have no words. */
function asText(block: Block): string | [] {
  switch (block.kind) {
    case 'heading':
    case 'paragraph':
      return block.text;
    case 'list':
      return block.items.map((item, i) => `${block.ordered ? `${i + 1}.` : '•'} ${item}`).join('\n');
    case 'table':
      return plainRows(block.rows)
        .map((row) => row.join('\t'))
        .join('\n');
    case 'picture':
      return [];
  }
}

/** CommonMark, with tables as GitHub Flavored Markdown 4.10 has them; a rule between pages. */
export function writeMarkdown({ title, pages }: Content): string {
  const body = pages.map((blocks) => blocks.flatMap(asMarkdown).join('\n\n'));
  return `# ${escaped(title)}\n\n${body.join('\n\n---\n\n')}\n`;
}

/** What would be taken for a sign of the format. */
const escaped = (text: string): string =>
  text.replace(/[\\`*_[\]<>|]/g, '\\$&').replace(/^(\s*)([#+-]|\d+[.)])(?=\s)/gm, (_, blank: string, sign: string) => `${blank}${sign.slice(0, -1)}\\${sign.slice(-1)}`); // prettier-ignore

function asMarkdown(block: Block): string | [] {
  switch (block.kind) {
    case 'heading':
      return `${'#'.repeat(block.level + 1)} ${escaped(block.text).replace(/\s+/g, ' ')}`;
    case 'paragraph':
      return escaped(block.text).replace(/\t/g, ' ').replace(/\n/g, '\\\n');
    case 'list':
      return block.items.map((item, i) => `${block.ordered ? `${i + 1}.` : '-'} ${escaped(item).replace(/\n/g, ' ')}`).join('\n');
    case 'table': {
      const [head = [], ...rows] = plainRows(block.rows).map((row) => row.map((cell) => escaped(cell).replace(/\n/g, ' ')));
      const line = (cells: readonly string[]) => `| ${cells.join(' | ')} |`;
      return [line(head), line(head.map(() => '---')), ...rows.map(line)].join('\n');
    }
    case 'picture':
      return [];
  }
}

/** Comma-separated values by RFC 4180, UTF-8 with a byte order mark, which spreadsheets need to see that it is. Text that would be taken for a formula gets an apostrophe. */
export function writeCsv(rows: readonly (readonly string[])[]): string {
  const cell = (text: string) => {
    const safe = /^[=@\t\r]|^[+-](?![\d.,\s]*$)/.test(text) ? `'${text}` : text;
    return /[",\r\n]/.test(safe) ? `"${safe.replace(/"/g, '""')}"` : safe;
  };
  return `\uFEFF${rows.map((row) => row.map(cell).join(',')).join('\r\n')}\r\n`;
}
