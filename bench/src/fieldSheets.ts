import type { ContactField } from '@libretto/text';
import type { Sheet } from './printed';
import { rolls, type Roll } from './scenes/roll';

const pick = <T>(roll: Roll, list: readonly T[]): T => list[Math.floor(roll(0, list.length - 1e-6))]!;
const int = (roll: Roll, from: number, to: number) => Math.floor(roll(from, to + 1 - 1e-6));
const start = (seed: number): Roll => {
  const roll = rolls(seed);
  for (let i = 0; i < 5; i++) roll(0, 1);
  return roll;
};

/** The demo's sheets have margins of their own. */
const bare = '<style>body{margin:0;padding:0!important}</style>';
const given = 'Agnes,Birte,Corin,Dorothea,Edmund,Femke,Gwen,Hinnerk,Imke,Jorun,Katla,Leander,Maren,Nils,Oona,Piet,Quint,Rieke,Sunniva,Thore,Ursel,Viggo,Wiebke,Yannick'.split(','); // prettier-ignore
const family = 'Ashdown,Brackwater,Callow,Dünkirchner,Eskdale,Fennhaven,Gorse,Holloway,Ingmarsson,Jessop,Kestrel,Larkfield,Marsham,Nordholt,Osterman,Pellworth,Quayle,Reedham,Seacombe,Thornquist,Ufford,Vessel,Withycombe,Yarrow'.split(','); // prettier-ignore
const firms = 'Marram & Pole Ltd,Kelp Rope Works,Fairlead Marine Electrics,Tiller & Sons,Oakum Chandlery,Sandbank Surveyors,Halyard Sails GmbH,Gunwale Joinery,Ebb Tide Paints,Northing Instruments,Breakwater Castings,Lantern Print Studio'.split(','); // prettier-ignore
const hosts = 'marrampole,kelprope,fairlead-marine,tillersons,oakum,sandbank,halyard-sails,gunwale,ebbtide,northing,breakwater,lanternprint'.split(','); // prettier-ignore
const roleNames = 'Managing Director,Sales Manager,Marine Surveyor,Master Rigger,Head of Accounts,Chief Engineer,Sailmaker,Owner,Project Architect,Geschäftsführerin'.split(','); // prettier-ignore
const streets = 'Saltmarsh Quay,Ropewalk Lane,Harbour Street,Old Slip Road,Lighthouse Row,Am Hafen Weg,Chandlers Wharf'.split(','); // prettier-ignore
const towns = [['SQ4 7TD', 'Saltmarsh'], ['NW8 2QX', 'Northwick'], ['EB1 9LN', 'Ebbstrand'], ['24999', 'Wattenbek']] as const; // prettier-ignore

export interface CardSheet extends Sheet {
  layout: string;
  truth: Partial<Record<ContactField, string[]>>;
}

export const cardLayouts = ['plain', 'centred', 'columns', 'bar', 'dark', 'firm above', 'firm below', 'lettered', 'tall', 'back to back'] as const; // prettier-ignore

/** A card of a layout; the same for the same seed. */
export function cardSheet(layout: (typeof cardLayouts)[number], seed: number): CardSheet {
  const roll = start(4441 * (cardLayouts.indexOf(layout) + 1) + 15485863 * seed);
  const [first, last] = [pick(roll, given), pick(roll, family)];
  const f = int(roll, 0, firms.length - 1);
  const [firm, host] = [firms[f]!, hosts[f]!];
  const top = pick(roll, ['example', 'com.example', 'co.example']);
  const name = `${first} ${last}`;
  const plain = (text: string) => text.toLowerCase().replace('ü', 'ue');
  const mail = `${pick(roll, [`${plain(first)}.${plain(last)}`, `${plain(first)[0]}.${plain(last)}`, 'office', plain(first)])}@${host}.${top}`; // prettier-ignore
  const web = `www.${host}.${top}`;
  const phone = pick(roll, [`01632 960${int(roll, 100, 999)}`, `+44 1632 960${int(roll, 100, 999)}`, `(01632) 960${int(roll, 100, 999)}`, `+49 4321 55${int(roll, 100, 999)}`]); // prettier-ignore
  const mobile = roll(0, 1) < 0.5 ? `07700 900${int(roll, 100, 999)}` : null;
  const [code, town] = pick(roll, towns);
  const line1 = `${int(roll, 2, 98)} ${pick(roll, streets)}`;
  const line2 = /^\d/.test(code) ? `${code} ${town}` : `${town} ${code}`;
  const role = pick(roll, roleNames);
  const lettered = layout === 'lettered';
  const ways = [
    [lettered ? 'T ' : pick(roll, ['', 'Tel. ', 'Phone ']), phone],
    ...(mobile ? [[lettered ? 'M ' : pick(roll, ['', 'Mobile ']), mobile]] : []),
    [lettered ? 'E ' : '', mail],
    [lettered ? 'W ' : '', web],
  ].map(([before, value]) => `<div>${before}${value}</div>`);
  const who = `<div style="font-size:${roll(11, 15)}pt;font-weight:700">${name}</div><div>${role}</div>`;
  const house = `<div style="font-size:${roll(10, 16)}pt;letter-spacing:${roll(0, 0.06).toFixed(2)}em">${firm}</div>`;
  const where = `<div>${line1}</div><div>${line2}</div>`;
  const tall = layout === 'tall';
  const [widthMm, heightMm] = tall ? [55, 85] : [85, 55];
  const dark = layout === 'dark';
  const gap = '<div style="height:3.5mm"></div>';
  const body =
    layout === 'columns'
      ? `${house}${gap}<div style="display:flex;justify-content:space-between;gap:6mm"><div>${who}</div><div>${ways.join('')}${where}</div></div>`
      : layout === 'back to back'
        ? `<div style="display:flex;justify-content:space-between"><div>${who}</div><div style="text-align:right">${house}</div></div>${gap}${gap}<div style="display:flex;justify-content:space-between"><div>${where}</div><div style="text-align:right">${ways.join('')}</div></div>`
        : layout === 'firm below'
          ? who + gap + ways.join('') + where + gap + house
          : layout === 'firm above' || layout === 'dark'
            ? house + gap + who + gap + ways.join('') + where
            : who + gap + house + ways.join('') + where;
  const look = `font:${roll(7.2, 8.6).toFixed(1)}pt/1.35 ${pick(roll, ['serif', 'sans-serif', 'Body, serif'])};padding:5mm 6mm;height:100%;box-sizing:border-box;${layout === 'centred' || tall ? 'text-align:center;' : ''}${dark ? 'background:#23304a;color:#f2ead8;' : ''}${layout === 'bar' ? 'border-left:4mm solid #7a2238;' : ''}`; // prettier-ignore
  return {
    id: `card-${layout.replace(/ /g, '-')}-${seed}`,
    layout,
    html: `${bare}<div style="${look}">${body}</div>`,
    widthMm,
    heightMm,
    truth: { name: [name], organisation: [firm], role: [role], phone: [phone, ...(mobile ? [mobile] : [])], mail: [mail], web: [web], address: [`${line1}, ${line2}`] }, // prettier-ignore
  };
}

export interface FirstPage extends Sheet {
  kind: string;
  truth: { title: string; date: string; number?: string; sender?: string };
}

export const firstPageKinds = ['invoice', 'rechnung', 'facture', 'letter', 'report', 'certificate', 'delivery note', 'minutes', 'quotation', 'contract'] as const; // prettier-ignore

const months = { en: 'January,February,March,April,May,June,July,August,September,October,November,December', de: 'Januar,Februar,März,April,Mai,Juni,Juli,August,September,Oktober,November,Dezember', fr: 'janvier,février,mars,avril,mai,juin,juillet,août,septembre,octobre,novembre,décembre' }; // prettier-ignore
const filler = {
  en: ['The work was begun on the slip in the morning and gone over once more before the tide came in.', 'What is left to do is listed below, and will be told at the office in good time.', 'The timber lies in the dry loft and was found sound wherever it was looked at.'], // prettier-ignore
  de: ['Die Arbeiten wurden am Morgen auf der Helling begonnen und vor der Flut noch einmal durchgesehen.', 'Was noch zu tun bleibt, steht unten und wird dem Büro rechtzeitig gesagt.', 'Das Holz liegt auf dem trockenen Boden und war überall gesund.'], // prettier-ignore
  fr: ['Les travaux ont commencé le matin sur la cale et ont été revus avant la marée.', 'Ce qui reste à faire figure ci-dessous et sera dit au bureau à temps.', 'Le bois est au sec dans le grenier et a été trouvé sain partout.'], // prettier-ignore
};

/** The first page of a paper of a kind; the same for the same seed. */
export function firstPage(kind: (typeof firstPageKinds)[number], seed: number): FirstPage {
  const roll = start(6007 * (firstPageKinds.indexOf(kind) + 1) + 32452843 * seed);
  const language = kind === 'rechnung' ? 'de' : kind === 'facture' ? 'fr' : 'en';
  const [y, m, d] = [2026, int(roll, 1, 12), int(roll, 13, 28)];
  const month = months[language].split(',')[m - 1]!;
  const two = (n: number) => String(n).padStart(2, '0');
  const written = language === 'de' ? pick(roll, [`${d}. ${month} ${y}`, `${two(d)}.${two(m)}.${y}`]) : language === 'fr' ? pick(roll, [`${d} ${month} ${y}`, `${two(d)}/${two(m)}/${y}`]) : pick(roll, [`${d} ${month} ${y}`, `${month} ${d}, ${y}`, `${y}-${two(m)}-${two(d)}`]); // prettier-ignore
  const f = int(roll, 0, firms.length - 1);
  const firm = firms[f]!;
  const number = `${pick(roll, ['', 'INV-', 'R', 'A-', '2026/'])}${int(roll, 1000, 98999)}`;
  const boats = ['Wren', 'Curlew', 'Sandpiper', 'Dunlin', 'Avocet'];
  const subject = pick(roll, boats);
  const text = Array.from({ length: int(roll, 2, 4) }, () => `<p>${filler[language].join(' ')}</p>`).join('');
  const heading = (words: string) => `<h1 style="font-size:${roll(16, 24).toFixed(0)}pt">${words}</h1>`;
  const house = `<div style="display:flex;justify-content:space-between;font-size:9pt"><b style="font-size:${roll(10, 14).toFixed(0)}pt">${firm}</b><div>${int(roll, 2, 90)} ${pick(roll, streets)}<br>Saltmarsh SQ4 7TD</div></div>`; // prettier-ignore
  const due = `<p style="font-size:9pt">${language === 'de' ? `Zahlbar bis ${two(28)}.${two((m % 12) + 1)}.${y}` : language === 'fr' ? `Payable jusqu’au 28 ${months.fr.split(',')[m % 12]} ${y}` : `Payment is due until 28 ${months.en.split(',')[m % 12]} ${y}`}</p>`; // prettier-ignore
  const rows = Array.from({ length: int(roll, 3, 7) }, () => `<tr><td>${pick(roll, ['Oak plank', 'Copper nails', 'Deck paint', 'Mooring line'])}</td><td style="text-align:right">${int(roll, 1, 40)}</td><td style="text-align:right">${roll(3, 900).toFixed(2)}</td></tr>`).join(''); // prettier-ignore
  const table = `<table style="width:100%;font-size:10pt;margin:4mm 0">${rows}</table>`;
  const facts = (label: string, day: string) => `<p style="font-size:10pt">${label} ${number}<br>${day} ${written}</p>`;
  const id = `first-${kind.replace(' ', '-')}-${seed}`;
  const made = (title: string, html: string, withNumber = true): FirstPage => ({ id, kind, html: `${bare}<div style="padding:16mm 18mm">${html}</div>`, widthMm: 210, heightMm: 297, truth: { title, date: `${y}-${two(m)}-${two(d)}`, ...(withNumber && { number }), ...(html.includes(firm) && kind !== 'contract' && { sender: firm }) } }); // prettier-ignore
  switch (kind) {
    case 'invoice':
      return made('Invoice', house + heading('Invoice') + facts('Invoice No.', 'Date:') + text + table + due);
    case 'rechnung':
      return made('Rechnung', house + heading('Rechnung') + facts('Rechnung Nr.', 'Datum:') + text + table + due);
    case 'facture':
      return made('Facture', house + heading('Facture') + facts('Facture n°', 'Date :') + text + table + due);
    case 'delivery note':
      return made('Delivery note', house + heading('Delivery note') + facts('Order No', 'Date') + table + text);
    case 'quotation':
      return made(`Quotation for ${subject}`, house + facts('Ref.', 'Date:') + heading(`Quotation for ${subject}`) + text + table + due); // prettier-ignore
    case 'letter':
      return made(`Mooring of ${subject}`, `${house}<p style="text-align:right;margin-top:10mm">Saltmarsh, ${written}</p><p><b>Mooring of ${subject}</b></p><p>Dear owner,</p>${text}<p>Yours, ${pick(roll, given)} ${pick(roll, family)}</p>`, false); // prettier-ignore
    case 'report':
      return made(`${subject} hull survey`, `${heading(`${subject} hull survey`)}<p style="font-size:10pt">${firm}, ${written}</p>${text}${table}`, false); // prettier-ignore
    case 'certificate':
      return made('Certificate of seaworthiness', `<div style="text-align:center">${heading('Certificate of seaworthiness')}<p>No. ${number}</p><p>It is certified that ${subject} was looked over and found fit.</p><p style="margin-top:20mm">Saltmarsh, ${written}</p></div>`); // prettier-ignore
    case 'minutes':
      return made('Minutes of the yard meeting', `${heading('Minutes of the yard meeting')}<p>Held on ${written} in the loft</p>${text}`, false); // prettier-ignore
    case 'contract':
      return made('Berth agreement', `${heading('Berth agreement')}<p>Agreement No ${number}, made between ${firm} and the owner of ${subject}.</p>${text}<p>Signed on ${written} at Saltmarsh</p>`); // prettier-ignore
  }
}
