import writeXlsxFile from 'write-excel-file/universal';
import { dateIn, decimalOf, numberIn, plainRows, type Content, type TableRows } from '@libretto/model/content';

/**
 * A workbook (ECMA-376) with a sheet a table; numbers are numbers and dates are dates, as the table's own way of writing decimals and the document's language have them.
 *
 * @throws RangeError without a table.
 */
export async function writeXlsx({ language, pages }: Content): Promise<Uint8Array> {
  const tables = pages.flatMap((blocks, i) => blocks.flatMap((block) => (block.kind === 'table' ? [{ page: i + 1, rows: block.rows }] : []))); // prettier-ignore
  if (!tables.length) throw new RangeError('A workbook needs at least one table');
  const sheets = tables.map(({ page, rows }, i) => {
    const nth = tables.slice(0, i).filter((t) => t.page === page).length;
    return {
      name: `${page}${tables.filter((t) => t.page === page).length > 1 ? `-${nth + 1}` : ''}`,
      ...asSheet(rows, language),
    };
  });
  const blob = await writeXlsxFile(sheets.map(({ name, data, columns }) => ({ sheet: name, data, columns }))).toBlob();
  return new Uint8Array(await blob.arrayBuffer());
}

function asSheet(rows: TableRows, language?: string) {
  const texts = plainRows(rows);
  const decimal = decimalOf(texts.flat(), language);
  const data = rows.map((row, r) =>
    row.map((cell) => {
      if (!cell) return null;
      const spans = { ...(cell.across && { columnSpan: cell.across }), ...(cell.down && { rowSpan: cell.down }) };
      const number = numberIn(cell.text, decimal);
      if (number !== null) {
        const digits = /[.,](\d+)\D*$/.exec(cell.text)?.[1];
        const decimals = digits && !Number.isInteger(number) ? digits.length : cell.text.includes(`${decimal}00`) ? 2 : 0;
        return { value: number, type: Number, format: decimals ? `0.${'0'.repeat(decimals)}` : '0', ...spans } as const;
      }
      const date = dateIn(cell.text);
      if (date) return { value: date, type: Date, format: 'yyyy-mm-dd', ...spans } as const;
      if (!cell.text) return null;
      return { value: cell.text, type: String, ...(r === 0 && { fontWeight: 'bold' as const }), ...spans } as const;
    }),
  );
  const columns = texts[0]!.map((_, c) => ({ width: Math.min(60, 3 + Math.max(...texts.map((row) => row[c]!.length))) }));
  return { data, columns };
}
