import { contactFields, contactOf, suggestionsOf, sureParts, type ContactField } from '@libretto/text';
import { cardLayouts, cardSheet, firstPage, firstPageKinds } from './fieldSheets';
import { readSheets } from './printed';

/** Letters and digits only, lower case: blanks and points are the setting's. */
const bare = (text: string) => text.toLowerCase().normalize('NFKC').replace(/[^\p{L}\p{N}@]/gu, ''); // prettier-ignore

/**
 * Cards printed in ten layouts, photographed by our renderer and read: F-measure of their fields, equal by letters and digits.
 *
 * @param each cards of each layout; @param keep folder for what was read.
 */
export async function benchCards(each: number, keep?: string): Promise<void> {
  const cards = cardLayouts.flatMap((layout) => Array.from({ length: each }, (_, i) => cardSheet(layout, i + 1)));
  const sums = new Map<string, { hit: number; said: number; true: number }>();
  await readSheets(cards, 'cards', keep, (card, read) => {
    const said = read ? contactOf(read.lines) : [];
    for (const field of contactFields) {
      const open = (card.truth[field as ContactField] ?? []).map(bare);
      const wanted = open.length;
      const its = said.filter((p) => p.field === field);
      let hit = 0;
      for (const { value } of its) {
        const at = open.indexOf(bare(value));
        if (at >= 0) {
          open.splice(at, 1);
          hit++;
        }
      }
      if (process.env.SHOW && hit < wanted) console.log(`${card.id} ${field}: ${card.truth[field as ContactField]!.join(' | ')} — said: ${its.map((p) => p.value).join(' | ')}`); // prettier-ignore
      for (const row of [field, card.layout, 'all']) {
        const sum = sums.get(row) ?? { hit: 0, said: 0, true: 0 };
        sums.set(row, { hit: sum.hit + hit, said: sum.said + its.length, true: sum.true + wanted });
      }
    }
  });
  console.log('cards                 F      precision recall');
  const figures: Record<string, number> = {};
  for (const [row, s] of sums) {
    const [p, r] = [s.hit / Math.max(1, s.said), s.hit / Math.max(1, s.true)];
    figures[row] = +((2 * p * r) / Math.max(1e-9, p + r)).toFixed(3);
    console.log(`${row.padEnd(22)}${figures[row]!.toFixed(3)}  ${p.toFixed(3)}     ${r.toFixed(3)}`);
  }
  console.log(JSON.stringify(figures));
}

/**
 * First pages of ten kinds of paper, photographed by our renderer and read: whether title, date and number are among the first three suggestions of their kind, and the first; of first ones said to be sure (0.9) how many are wrong; and how many names would be filled in unasked, and wrongly.
 *
 * @param each pages of each kind; @param keep folder for what was read.
 */
export async function benchNames(each: number, keep?: string): Promise<void> {
  const pages = firstPageKinds.flatMap((kind) => Array.from({ length: each }, (_, i) => firstPage(kind, i + 1)));
  const sums = new Map<string, { three: number; first: number; asked: number; sure: number; wrong: number }>();
  const kinds = ['title', 'date', 'number', 'sender'] as const;
  const same = (part: (typeof kinds)[number], said: string, wanted: string) =>
    part === 'title' ? bare(said).includes(bare(wanted)) : bare(said) === bare(wanted);
  const filled = { asked: 0, filled: 0, wrong: 0 };
  await readSheets(pages, 'names', keep, (page, read) => {
    const found = read ? suggestionsOf(read.lines, read.height) : [];
    const sure = sureParts(found, kinds);
    filled.asked++;
    if (sure) {
      filled.filled++;
      const wrong = kinds.filter((part) => sure[part] && !(page.truth[part] && same(part, sure[part], page.truth[part])));
      if (wrong.length) filled.wrong++;
      if (process.env.SHOW && wrong.length) console.log(`${page.id} filled in wrongly: ${wrong.map((part) => `${sure[part]} for ${page.truth[part]}`).join(' | ')}`); // prettier-ignore
    }
    for (const part of kinds) {
      const wanted = page.truth[part];
      if (!wanted) continue;
      const its = found.filter((s) => s.kind === part);
      const right = (text: string | undefined) => text !== undefined && same(part, text, wanted);
      const first = its[0];
      if (process.env.SHOW && !right(first?.text)) console.log(`${page.id} ${part}: ${wanted} — said: ${its.map((s) => s.text).join(' | ')}`); // prettier-ignore
      for (const row of [part, page.kind, 'all']) {
        const sum = sums.get(row) ?? { three: 0, first: 0, asked: 0, sure: 0, wrong: 0 };
        sum.asked++;
        if (its.slice(0, 3).some((s) => right(s.text))) sum.three++;
        if (right(first?.text)) sum.first++;
        if (first && first.right >= 0.9) {
          sum.sure++;
          if (!right(first.text)) sum.wrong++;
        }
        sums.set(row, sum);
      }
    }
  });
  console.log('names                 among three  first   sure and wrong');
  for (const [row, s] of sums)
    console.log(
      `${row.padEnd(22)}${(s.three / s.asked).toFixed(3)}        ${(s.first / s.asked).toFixed(3)}   ${s.wrong} of ${s.sure}`,
    );
  console.log(`filled in unasked      ${filled.filled} of ${filled.asked} pages, ${filled.wrong} of them wrong`);
  const all = sums.get('all')!;
  console.log(JSON.stringify({ amongThree: +(all.three / all.asked).toFixed(3), first: +(all.first / all.asked).toFixed(3), sureAndWrong: +(all.wrong / Math.max(1, all.sure)).toFixed(3), filled: +(filled.filled / filled.asked).toFixed(3), filledWrong: +(filled.wrong / Math.max(1, filled.filled)).toFixed(3) })); // prettier-ignore
}
