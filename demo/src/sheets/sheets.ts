import { coloured } from './coloured';

/** The boatyard's papers, each as HTML for its true size. Everything in them is invented. */
export interface Sheet {
  id: string;
  widthMm: number;
  heightMm: number;
  /** Body of the page; `style.ts` gives the looks. */
  html: string;
  background?: string;
}

const rows = <T>(list: readonly T[], row: (item: T, i: number) => string) => list.map(row).join('');

const docket: Sheet = {
  id: 'timber-docket',
  widthMm: 210,
  heightMm: 148,
  background: '#f7cfd0',
  html: `<div class="docket"><header><div><h1>Delivery docket</h1><p>Marram &amp; Pole, timber merchants<br>Staithe Road, Saltmarsh</p></div><div class="no">No 4471<small>19 November 2026</small></div></header>
<p>Deliver to <b>Saltmarsh Quay boatyard</b>, slip 2, ask for the shipwright.</p>
<table><tr><th>Timber</th><th>Section, mm</th><th>Length, m</th><th>Pieces</th></tr>
<tr><td>Larch, boat skin grade</td><td>32 × 220</td><td>6.4</td><td>14</td></tr><tr><td>Oak, green, crooks</td><td>75 sided</td><td>1.8</td><td>6</td></tr>
<tr><td>Iroko, planed</td><td>44 × 145</td><td>3.0</td><td>9</td></tr><tr><td>Douglas fir, clear</td><td>90 × 90</td><td>7.2</td><td>2</td></tr></table>
<p class="sign">Received in good order <i class="hand">K. Fenwick-Rao</i></p><p class="fine">Pink copy: keep with the job. Claims within three days. Lengths are measured at 18 % moisture.</p></div>`,
};

const frames = [
  '4 P',
  '4 S',
  '5 P',
  '5 S',
  '6 P',
  '6 S',
  '7 P',
  '7 S',
  '8 P',
  '8 S',
  '9 P',
  '9 S',
  '10 P',
  '10 S',
  '11 P',
  '11 S',
];
const readings = [5.9, 5.8, 5.8, 5.7, 5.6, 5.6, 5.5, 5.4, 5.2, 5.3, 4.9, 5.1, 5.4, 5.5, 5.7, 5.8];

const survey: Sheet[] = [
  `<h1>Hull survey</h1><p class="sub">Wren · steel ketch, 11.8 m · frames 4 to 11</p><hr><p>The vessel was surveyed afloat on 16 November 2026 and on the slip the day after, at the
wish of her owner, before the change of insurance. The plating was cleaned to bright metal at each point and measured by ultrasound; every reading below is the mean of three.</p>
<p>The hull was built in 6 mm plate below the waterline and 5 mm above it. Readings under 5.0 mm are printed in bold and are discussed on page 2.</p>
<table class="grid"><tr><th>Frame</th><th>Reading, mm</th><th>As built, mm</th><th>Loss, %</th></tr>${rows(frames, (f, i) => {
    const r = readings[i]!;
    const text = r < 5 ? `<b>${r.toFixed(1)}</b>` : r.toFixed(1);
    return `<tr><td>${f}</td><td>${text}</td><td>6.0</td><td>${Math.round(((6 - r) / 6) * 100)}</td></tr>`;
  })}</table><p>P is the port side, S the starboard side. The gauge was checked against a step block of 2, 4, 6 and 8 mm before and after the work.</p><footer>Saltmarsh Quay · survey 26-114 · page 1 of 3</footer>`,
  `<h2>What was found</h2><p>The plating is sound over most of the bottom. Between frames 8 and 10 on the port side, where the bilge water lies, the loss is up to 18 %. The pitting there is
shallow and wide, 1 to 2 mm deep, under old bitumen that has lost its hold.</p>
<svg viewBox="0 0 400 120" class="drawing"><path d="M8 60 C 90 6, 300 4, 392 60 C 300 116, 90 114, 8 60 Z" fill="none" stroke="#222" stroke-width="2"/>${rows([60, 110, 160, 210, 260, 310], (x) => `<path d="M${x} 20 V100" stroke="#222" stroke-width="1"/>`)}<circle cx="235" cy="42" r="9" fill="none" stroke="#a33" stroke-width="2.5"/><text x="250" y="38" font-size="11">frame 9, port</text></svg>
<h2>Recommended</h2><ol><li>Blast the bilge between frames 7 and 11, both sides, and coat it with epoxy, 400 µm in three coats.</li><li>Renew the plate at frame 9 port, 600 × 450 mm, in 6 mm, before the spring.</li><li>Renew nine zinc anodes; fit two more by the rudder heel.</li><li>Measure the same points again in two years.</li></ol>
<p>The rudder stock, the stern tube and the sea cocks were opened and found in order. The cutlass bearing has 1.2 mm of play, which is within what is usual for a 40 mm shaft.</p>
<p>The standing rigging is eleven years old. It was not part of this survey, but the swages of both cap shrouds show rust at the throat and should be looked at by a rigger.</p><footer>Saltmarsh Quay · survey 26-114 · page 2 of 3</footer>`,
  `<h2>Costs, as far as they can be told</h2><table class="grid"><tr><th>Work</th><th>Hours</th><th>Material</th></tr><tr><td>Blasting and coating, bilge</td><td>38</td><td>612.00</td></tr><tr><td>Plate at frame 9 port</td><td>22</td><td>188.50</td></tr><tr><td>Anodes</td><td>4</td><td>331.20</td></tr><tr><td>Slip, four days</td><td>–</td><td>420.00</td></tr></table>
<p>Hours are at the yard's rate of the day. Not in this: paint above the waterline, the rigging, and what may come to light once the bilge is clean.</p>
<h2>Opinion</h2><p>With the work under 1 and 2 done, the hull is fit for coastal passages for five years.</p>
<p class="sign"><i class="hand">I. Dunnock</i><br>Ines Dunnock, surveyor<br>ines@dunnock.example.org</p><div class="stamp">SURVEYED<br>17 NOV 2026<br>SALTMARSH QUAY</div><footer>Saltmarsh Quay · survey 26-114 · page 3 of 3</footer>`,
].map((html, i) => ({ id: `hull-survey-${i + 1}`, widthMm: 210, heightMm: 297, html }));

const goods: [string, string][] = [
  ['Rope 12 mm polyester, 25 m', '41.25'],
  ['Shackle, bow, 10 mm, 4 pc', '23.60'],
  ['Antifouling, red, 2.5 l', '86.00'],
  ['Brush, 75 mm, 2 pc', '7.80'],
  ['Thinner no. 3, 1 l', '11.40'],
  ['Tape, masking, 50 mm', '4.95'],
  ['Hose clip 16-27, 10 pc', '9.50'],
  ['Bilge pump diaphragm', '18.20'],
  ['Lamp, anchor, LED', '12.30'],
  ['Tea, yard blend', '3.40'],
];
const receipt: Sheet = {
  id: 'chandlery-receipt',
  widthMm: 80,
  heightMm: 236,
  background: '#fbfbf8',
  html: `<div class="till"><h1>The Chandlery</h1><p class="mid">Saltmarsh Quay<br>tel 01632 960117</p><p class="dash"></p><p>20.11.2026 09:12   till 2   no 008841</p><p class="dash"></p>${rows(goods, ([n, p]) => `<p class="row"><span>${n}</span><span>${p}</span></p>`)}<p class="dash"></p><p class="row total"><span>TOTAL</span><span>218.40</span></p><p class="row"><span>of this tax 20 %</span><span>36.40</span></p><p class="row"><span>Card ending 0000</span><span>218.40</span></p><p class="dash"></p><p class="mid">Goods back within 30 days<br>with this slip.<br>Fair winds.</p><p class="dash"></p><p class="mid">yard account 114 / Wren</p></div>`,
};

const clauses = [
  'The yard lets berth 12 on the east pontoon to the owner for the vessel named above, from 1 December 2026 until 30 November 2027.',
  'The rent is due on the first day of each quarter. A berth that is empty for more than four weeks may be let to visitors in the meantime.',
  'The owner keeps the vessel insured against harm to others for at least three million and shows the policy on the day this is signed.',
  'Lines must be sound and led so that they do not chafe. The yard may double them in bad weather and charge for the rope.',
  'No work that makes dust, sparks or spray may be done on the pontoon. The slip and the shed are there for it.',
  'Shore power is metered. Heaters are not to be left on in a vessel with nobody aboard.',
  'Water from bilges with oil in it goes into the tank by the fuel berth, never into the harbour.',
  'Children wear life jackets on the pontoons. Dogs are led.',
  'The yard may move the vessel for dredging or in danger and tells the owner as soon as it can.',
];
const agreement: Sheet[] = [
  `<h1>Mooring agreement</h1><p class="sub">No 12 · between Saltmarsh Quay and the owner</p><table class="grid"><tr><td>Owner</td><td>Tobias Elmwood-Hale</td></tr><tr><td>Vessel</td><td>Wren, ketch, 11.8 m</td></tr><tr><td>Berth</td><td>12, east pontoon</td></tr><tr><td>Rent a quarter</td><td>740.00</td></tr></table><ol>${rows(clauses, (c) => `<li>${c}</li>`)}</ol><p>More overleaf.</p>`,
  `<h2>Overleaf</h2><ol start="10">${rows(['Either side may end this with eight weeks’ notice in writing to the end of a quarter.', 'If the rent is more than six weeks late, the yard may take the vessel out of the water and keep her until it is paid.', 'The yard is not answerable for harm by weather, ice, theft or other vessels, unless it was careless.', 'Keys left at the office hang in the locked cupboard and are given only against a signature.', 'What is not settled here follows the harbour’s bylaws, which hang in the office.'], (c) => `<li>${c}</li>`)}</ol><p>Signed at Saltmarsh on 18 November 2026</p><p class="two"><span class="hand">T. Elmwood-Hale</span><span class="hand">Marit Osei-Lund</span></p><p class="two"><span>the owner</span><span>for the yard</span></p>`,
].map((html, i) => ({ id: `mooring-agreement-${i + 1}`, widthMm: 215.9, heightMm: 355.6, html }));

const handbook: Sheet = {
  id: 'engine-handbook',
  widthMm: 352,
  heightMm: 250,
  background: '#fdfaf1',
  html: `<div class="spread"><section><h2>6 · Fuel system</h2><p>The lift pump draws fuel through the water separator and passes it to the fine filter. From there it reaches the injection pump with about 0.3 bar. What is not burned runs back to the tank and takes the air with it.</p><h3>Bleeding</h3><ol><li>Close the sea cock and open the fuel tap.</li><li>Loosen the screw on top of the fine filter by two turns.</li><li>Work the hand lever until fuel without bubbles comes out.</li><li>Tighten to 9 N m and wipe dry.</li></ol><p>If the lever has no travel, turn the crankshaft by half a turn: the cam stands on its lobe.</p><p>Filters are changed every 200 hours or once a year, the separator is drained before each season. Water in the bowl is a sign that the tank should be cleaned.</p><footer>44</footer></section><section><h3>Table 6.2 · Settings</h3><table class="grid"><tr><th>Item</th><th>Value</th><th>Unit</th></tr><tr><td>Valve gap, inlet, cold</td><td>0.20</td><td>mm</td></tr><tr><td>Valve gap, outlet, cold</td><td>0.25</td><td>mm</td></tr><tr><td>Injector pressure</td><td>195</td><td>bar</td></tr><tr><td>Idle speed</td><td>850</td><td>1/min</td></tr><tr><td>Head bolts</td><td>63</td><td>N m</td></tr><tr><td>Oil, sump full</td><td>3.9</td><td>l</td></tr></table><p>The settings hold for engines from number 20 418. For older ones the valve gap at the outlet is 0.30 mm.</p><h3>Cold start</h3><p>Heat for fifteen seconds at 5 °C and for thirty below 0 °C. Do not turn the starter for more than ten seconds at a time; let it rest for a minute between two tries.</p><p>White smoke that clears within a minute is usual. Blue smoke is not: see chapter 9.</p><footer>45</footer></section></div>`,
};

const handbookNext: Sheet = {
  ...handbook,
  id: 'engine-handbook-next',
  html: `<div class="spread"><section><h2>7 · Cooling</h2><p>The raw water pump lifts sea water through the strainer and presses it through the heat exchanger, where it takes the warmth of the engine’s own fresh water. It leaves by the exhaust bend and goes overboard with the gas.</p><h3>Weekly</h3><ol><li>Open the strainer and clear weed from the basket.</li><li>Look at the cap’s seal; grease it thinly.</li><li>With the engine running, see that water leaves the exhaust in gushes.</li></ol><p>No water within a minute: stop the engine, close the sea cock, and begin with the impeller.</p><footer>46</footer></section><section><h3>7.2 The impeller</h3><p>Six rubber vanes, good for 300 hours or two seasons. A vane that is bent over for good, cracked at the root or missing: change it, and look for the missing piece in the pipe to the heat exchanger.</p><table class="grid"><tr><th>Part</th><th>Fresh</th><th>Worn out</th></tr><tr><td>Impeller width</td><td>31.8 mm</td><td>31.2 mm</td></tr><tr><td>Cover plate wear</td><td>0.0 mm</td><td>0.3 mm</td></tr><tr><td>Thermostat opens</td><td>71 °C</td><td>78 °C</td></tr><tr><td>Zinc anode</td><td>45 mm</td><td>20 mm</td></tr></table><p>Tighten the cover’s six screws crosswise, 3 Nm.</p><footer>47</footer></section></div>`,
};

const cards: Sheet[] = (
  [
    ['oakum-and-rope', 'Oakum & Rope', 'Caulking, rigging, splices', 'Bryn Tolliver', '01632 960142', '#1d3b40', '#f2ead8'],
    ['brasswell', 'Brasswell Foundry', 'Castings in bronze', 'Noor Aspinall', '01632 960155', '#f6efe0', '#5a3a12'],
    ['tern-sails', 'Tern Sails', 'New sails and mending', 'Odile Marsh', '01632 960168', '#fdfdfb', '#1f3f77'],
    ['fathom-electrics', 'Fathom Electrics', 'Wiring afloat and ashore', 'Piers Quillan', '01632 960171', '#e9efe6', '#2c5a33'],
  ] as const
).map(([id, firm, what, who, tel, back, fore]) => ({
  id,
  widthMm: 85,
  heightMm: 55,
  background: back,
  html: `<div class="card" style="color:${fore}"><h1>${firm.replace('&', '&amp;')}</h1><p>${what}</p><hr style="border-color:${fore}"><p><b>${who}</b><br>tel ${tel}<br>${id}@example.com</p></div>`,
}));

const board: Sheet = {
  id: 'job-board',
  widthMm: 900,
  heightMm: 600,
  background: '#fcfdfd',
  html: `<div class="board hand"><h1>This week</h1><p class="blue">Mon – Wren on the slip, blast bilge</p><p class="red">Tue – plate frame 9 port !!</p><p class="green">Wed – mast step note: see Fenwick</p><p class="blue">Thu – timber 4471, stack to dry</p><p class="blue">Fri – crane 10:00, tide 11:40 (4.6 m)</p><svg viewBox="0 0 200 60"><path d="M10 40 Q 60 0 110 38 T 190 20" stroke="#c1272d" stroke-width="2" fill="none"/><path d="M10 52 H190" stroke="#1f4fa3" stroke-width="1.5"/></svg></div>`,
};

const note: Sheet = {
  id: 'mast-step-note',
  widthMm: 148,
  heightMm: 210,
  background: '#fffbe2',
  html: `<div class="note hand">${rows(['Mast step, Wren', '', 'Heel tenon is 82 × 46, step is', '84 × 48, so 1 mm all round:', 'pack with oak, not epoxy.', 'Drain hole aft is blocked -', 'drill 12 mm before we step.', 'Wedges: 6 of larch, number', 'them P1–P3, S1–S3.', 'Ask Marit about the coin', '(1931, she wants it back!)', '', 'K. F-R, 18 Nov'], (l) => `<p>${l || '&nbsp;'}</p>`)}</div>`,
};

const paints: [string, string][] = [['Oxide red', '#8c2f2a'], ['Buoy orange', '#d2691e'], ['Spar varnish', '#c8a04a'], ['Bilge green', '#3f6f45'], ['Deep teal', '#1f5d63'], ['Admiral blue', '#243f74'], ['Dark plum', '#5b2140'], ['Tar', '#37342f'], ['Sailcloth', '#ddd3bf'], ['Signal yellow', '#e7b91f'], ['Sky', '#7fb2d0'], ['Rose', '#d9949b']]; // prettier-ignore
const chart: Sheet = {
  id: 'paint-chart',
  widthMm: 210,
  heightMm: 297,
  html: `<h1>Paint chart</h1><p class="sub">Topside enamel, 2026 · two coats over grey primer</p><div class="fields">${rows(paints, ([n, c], i) => `<div><i style="background:${c}"></i>${String(101 + i)} ${n}</div>`)}</div><p>Colours dry a little darker. One litre covers 11 m². Recoat after 16 hours at 15 °C; not below 8 °C, and not in the evening dew.</p><footer>Saltmarsh Quay paint store</footer>`,
};

export const sheets: readonly Sheet[] = [
  docket,
  ...survey,
  receipt,
  ...agreement,
  handbook,
  handbookNext,
  ...cards,
  board,
  note,
  chart,
  ...coloured,
];
