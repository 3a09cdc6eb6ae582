import { rolls, type Roll } from './scenes/roll';

/** A table as it is printed: its places by rows; null is covered by the cell that begins to the left of it or above. */
export type TrueTable = ({ text: string; across?: number; down?: number } | null)[][];

export interface TablePage {
  id: string;
  kind: TableKind;
  html: string;
  widthMm: number;
  heightMm: number;
  tables: TrueTable[];
}

export const tableKinds = ['ruled', 'ruled wrapped', 'ruled merged', 'records', 'lines', 'unruled', 'unruled wrapped', 'unruled heading', 'two tables', 'receipt'] as const; // prettier-ignore
export type TableKind = (typeof tableKinds)[number];
/** Which of them have rules between their columns. */
export const isRuled = (kind: TableKind): boolean => kind.startsWith('ruled') || kind === 'records';

const things = 'Anchor chain,Bow fender,Bilge pump,Mooring line,Deck paint,Copper nails,Oak plank,Stern light,Shackle,Rudder pin,Keel bolt,Sail cloth,Brass hinge,Tar,Canvas,Winch handle,Hatch seal,Propeller,Zinc anode,Rope ladder'.split(','); // prettier-ignore
const remarks = 'worn at the splice,replace before the spring tide,sound,to be painted twice,kept in the loft over winter,needs a second coat,ordered again,checked against the drawing,left as it was found,tight after the repair'.split(','); // prettier-ignore
const codes = 'AB,KS,NR,PT,WQ,LM'.split(',');
const locales = ['en-GB', 'de-DE', 'fr-FR'] as const;

const pick = <T>(roll: Roll, list: readonly T[]): T => list[Math.floor(roll(0, list.length - 1e-6))]!;
const int = (roll: Roll, from: number, to: number) => Math.floor(roll(from, to + 1 - 1e-6));

/** Numbers as they are set in a locale, with narrow blanks made plain ones. */
function amounts(roll: Roll, locale: string, digits: number): string {
  const value = pick(roll, [1, 1, 12, 340, 2600]) * roll(1, 9.9) * (roll(0, 1) < 0.12 ? -1 : 1);
  return value.toLocaleString(locale, { minimumFractionDigits: digits, maximumFractionDigits: digits }).replace(/[\u00a0\u202f]/g, ' ').replace('-', '−'); // prettier-ignore
}

interface Shape {
  columns: { head: string; right: boolean; cell: () => string }[];
}

function shape(roll: Roll, count: number, wrap: boolean): Shape {
  const locale = pick(roll, locales);
  const more = [
    { head: 'Qty', right: true, cell: () => String(int(roll, 1, 240)) },
    { head: 'Price', right: true, cell: () => amounts(roll, locale, 2) },
    { head: 'Total', right: true, cell: () => amounts(roll, locale, 2) },
    { head: 'Code', right: false, cell: () => `${pick(roll, codes)}-${int(roll, 10, 99)}` },
    { head: 'Date', right: false, cell: () => `${String(int(roll, 1, 28)).padStart(2, '0')}.${String(int(roll, 1, 12)).padStart(2, '0')}.2026` },
    { head: 'Depth', right: true, cell: () => amounts(roll, locale, 1) },
  ]; // prettier-ignore
  const columns: Shape['columns'] = [{ head: 'Part', right: false, cell: () => pick(roll, things) }];
  while (columns.length < count) columns.push(more.splice(int(roll, 0, more.length - 1), 1)[0]!);
  if (wrap) columns.splice(1, 0, { head: 'Remark', right: false, cell: () => `${pick(roll, remarks)}, ${pick(roll, remarks)}` });
  return { columns };
}

function asHtml(table: TrueTable, { columns }: Shape, kind: string): string {
  const rows = table.map((row, r) => {
    const cells = row.flatMap((cell, c) => {
      if (!cell) return [];
      const tag = r === 0 ? 'th' : 'td';
      const spans = `${cell.across ? ` colspan=${cell.across}` : ''}${cell.down ? ` rowspan=${cell.down}` : ''}`;
      return [`<${tag}${spans} class="${columns[c]?.right ? 'r' : ''}${cell.across ? ' mid' : ''}">${cell.text}</${tag}>`];
    });
    return `<tr>${cells.join('')}</tr>`;
  });
  return `<table class="${kind}">${rows.join('')}</table>`;
}

const plain = ({ columns }: Shape, rows: number): TrueTable => [
  columns.map((c) => ({ text: c.head })),
  ...Array.from({ length: rows }, () => columns.map((c) => ({ text: c.cell() }))),
];

const looks = `.t{border-collapse:collapse;margin:4mm 0;width:auto}.t th,.t td{font-size:10pt;vertical-align:top;text-align:left;padding:1.2mm 3mm}.t .r{text-align:right}.t .mid{text-align:center}
.ruled th,.ruled td,.records th,.records td{border:.25mm solid #444}.records td{border-top:0;border-bottom:0}.lines tr{border-bottom:.25mm solid #444}.lines{border-top:.4mm solid #222}.wrap td:nth-child(2){width:46mm}.full{width:100%}`;

/** A page with a table of a kind, or two, and text round it; the same for the same seed. */
export function tablePage(kind: TableKind, seed: number): TablePage {
  const roll = rolls(7919 * (tableKinds.indexOf(kind) + 1) + 104729 * seed);
  for (let i = 0; i < 5; i++) roll(0, 1);
  const id = `${kind.replace(' ', '-')}-${seed}`;
  if (kind === 'receipt') return receipt(id, roll);
  const wrap = kind.endsWith('wrapped');
  const sets = kind === 'two tables' ? 2 : 1;
  const tables: TrueTable[] = [];
  const parts: string[] = [];
  for (let k = 0; k < sets; k++) {
    const its = shape(roll, int(roll, 3, 5) - (wrap ? 1 : 0), wrap);
    const table = plain(its, int(roll, 5, wrap ? 7 : 12));
    if (kind === 'ruled merged') {
      const n = its.columns.length;
      table.splice(1, 0, [
        { text: pick(roll, ['First delivery', 'From the loft', 'Second week']), across: n },
        ...Array.from({ length: n - 1 }, () => null),
      ]);
      const at = 3;
      table[at]![0] = { text: table[at]![0]!.text, down: 2 };
      table[at + 1]![0] = null;
    }
    if (kind === 'unruled heading') {
      const n = its.columns.length;
      table.unshift([
        { text: '' },
        { text: 'Measured at the quay, low water', across: n - 1 },
        ...Array.from({ length: n - 2 }, () => null),
      ]);
    }
    const look = `t ${wrap ? 'wrap ' : ''}${kind.startsWith('ruled') ? 'ruled' : kind === 'records' ? 'records' : kind === 'lines' || (k === 1 && roll(0, 1) < 0.5) ? 'lines' : ''}${roll(0, 1) < 0.5 ? ' full' : ''}`;
    tables.push(table);
    parts.push(
      `<p>${k ? 'What is still to come stands below, as it was told by the chandlery.' : 'The list below was made on the slip on the morning after the gale, and gone over once more in the loft by two of us.'}</p>${asHtml(table, its, look)}`,
    );
  }
  const html = `<style>${looks}</style><h1>${pick(roll, ['Stores', 'Survey', 'Order', 'Fitting out'])}</h1>${parts.join('')}<p>Whatever is missing from it is to be told at the office before the end of the week, so that it can be ordered in time for the next tide.</p>`;
  return { id, kind, html, widthMm: 210, heightMm: 297, tables };
}

function receipt(id: string, roll: Roll): TablePage {
  const rows = Array.from({ length: int(roll, 6, 14) }, () => [
    pick(roll, things),
    String(int(roll, 1, 9)),
    roll(1, 90).toFixed(2),
  ]);
  const table: TrueTable = rows.map((row) => row.map((text) => ({ text })));
  const total = rows.reduce((sum, [, , price]) => sum + Number(price), 0).toFixed(2);
  table.push([{ text: 'TOTAL' }, { text: '' }, { text: total }]);
  const line = (a: string, b: string, c: string) => `<tr><td>${a}</td><td class=r>${b}</td><td class=r>${c}</td></tr>`;
  const html = `<style>${looks} .t td{padding:.4mm 1mm;font:8.6pt/1.35 Till}</style><div class=till><h1>CHANDLERY</h1><p class=mid>Saltmarsh Quay</p><table class="t full">${rows.map((r) => line(r[0]!, r[1]!, r[2]!)).join('')}${line('TOTAL', '', total)}</table><p class=mid>Thank you</p></div>`;
  return { id, kind: 'receipt', html, widthMm: 80, heightMm: 60 + 5 * rows.length + 20, tables: [table] };
}
