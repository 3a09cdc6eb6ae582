import type { Block, Content, Picture, TableRows } from '@libretto/model/content';

export const xml = (text: string): string =>
  // Characters that XML 1.0 does not have.
   
  text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '').replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!); // prettier-ignore

const look = `body{font:1rem/1.5 Georgia,serif;max-width:44rem;margin:2rem auto;padding:0 1rem}img{max-width:100%;height:auto}table{border-collapse:collapse;margin:1em 0}th,td{border:1px solid #888;padding:.2em .6em;text-align:left;vertical-align:top}section+section{border-top:1px dashed #888;margin-top:2em;padding-top:1em}`;

/** One web page, a section a page of paper, well-formed as XML too. */
export function writeHtml({ title, language, pages }: Content): string {
  const lang = language ? ` lang="${xml(language)}"` : '';
  return `<!DOCTYPE html>
<html${lang}>
<head><meta charset="utf-8"/><meta name="viewport" content="width=device-width"/><title>${xml(title)}</title><style>${look}</style></head>
<body>
<h1>${xml(title)}</h1>
${pages.map((blocks) => `<section>\n${blocks.map((b) => blockHtml(b)).join('\n')}\n</section>`).join('\n')}
</body>
</html>
`;
}

/** A picture as a part of its address (RFC 2397). */
function inside({ jpeg }: Picture): string {
  let bytes = '';
  for (let i = 0; i < jpeg.length; i += 8192) bytes += String.fromCharCode(...jpeg.subarray(i, i + 8192));
  return `data:image/jpeg;base64,${btoa(bytes)}`;
}

/** @param below headings stand so many levels below their own. @param addressOf where a picture lies; in the page itself if not said. */
export function blockHtml(block: Block, below = 1, addressOf: (picture: Picture) => string = inside): string {
  switch (block.kind) {
    case 'heading':
      return `<h${block.level + below}>${xml(block.text)}</h${block.level + below}>`;
    case 'paragraph':
      return `<p>${xml(block.text).replace(/\n/g, '<br/>').replace(/\t/g, '&#8195;')}</p>`;
    case 'list': {
      const tag = block.ordered ? 'ol' : 'ul';
      return `<${tag}>${block.items.map((item) => `<li>${xml(item)}</li>`).join('')}</${tag}>`;
    }
    case 'table':
      return tableHtml(block.rows);
    case 'picture': {
      const { picture } = block;
      return `<p><img src="${addressOf(picture)}" alt="" width="${picture.width}" height="${picture.height}" style="width:${picture.widthMm.toFixed(1)}mm"/></p>`;
    }
  }
}

function tableHtml(rows: TableRows): string {
  const lines = rows.map((row, r) => {
    const tag = r ? 'td' : 'th';
    const cells = row.flatMap((cell) => {
      if (!cell) return [];
      const { across = 1, down = 1, text } = cell;
      return [`<${tag}${across > 1 ? ` colspan="${across}"` : ''}${down > 1 ? ` rowspan="${down}"` : ''}>${xml(text)}</${tag}>`];
    });
    return `<tr>${cells.join('')}</tr>`;
  });
  return `<table>${lines.join('')}</table>`;
}
