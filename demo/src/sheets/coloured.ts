import type { Sheet } from './sheets';

/** Papers of which colour is most of what they say. */

const rows = <T>(list: readonly T[], row: (item: T, i: number) => string) => list.map(row).join('');

const envelope: Sheet = {
  id: 'kraft-envelope',
  widthMm: 229,
  heightMm: 162,
  background: '#c29660',
  html: `<div class="envelope"><p class="from">Marram &amp; Pole, timber merchants<br>Staithe Road, Saltmarsh</p>
<svg class="post" viewBox="0 0 150 70"><g fill="none" stroke="#2c2a3c" stroke-width="1.4"><circle cx="36" cy="35" r="26"/><circle cx="36" cy="35" r="19"/>${rows([14, 24, 34, 44, 54], (y) => `<path d="M64 ${y} q 8 -5 16 0 t 16 0 t 16 0 t 16 0 t 16 0"/>`)}</g><text x="36" y="33" font-size="7" text-anchor="middle" fill="#2c2a3c">SALTMARSH</text><text x="36" y="43" font-size="7" text-anchor="middle" fill="#2c2a3c">18 NOV 26</text></svg>
<svg class="stamp-of-ours" viewBox="0 0 60 72"><rect width="60" height="72" fill="#f4efe2"/><rect x="5" y="5" width="50" height="62" fill="#7fb0bd"/><path d="M5 50 q 12 -6 25 0 t 25 0 V67 H5 Z" fill="#2a5c6c"/><path d="M29 14 V48 L14 46 Z M32 20 V48 H46 Z" fill="#f7f3e7"/><path d="M12 50 H48 L42 57 H18 Z" fill="#7c2b33"/><text x="50" y="16" font-size="10" text-anchor="end" fill="#fff">72</text></svg>
<div class="window">Saltmarsh Quay boatyard<br>The office, slip 2<br>Quay Lane<br>Saltmarsh</div><p class="hand urgent">docket 4471 inside – K. F-R to sign</p></div>`,
};

const jobs: [string, string, string][] = [
  ['1', 'Unship rudder, look at heel bearing', 'R. Quince'],
  ['2', 'Renew zincs, nine; two more at the heel', 'R. Quince'],
  ['3', 'Blast bilge frames 7 to 11, both sides', 'O. Thorne'],
  ['4', 'Coat bilge, epoxy 400 µm, three coats', 'O. Thorne'],
  ['5', 'Pack mast step with oak, drain hole 12 mm', 'K. Fenwick-Rao'],
];
const jobSheet: Sheet = {
  id: 'orange-job-sheet',
  widthMm: 148,
  heightMm: 210,
  background: '#f2953a',
  html: `<div class="job"><h1>Job sheet 26-208</h1><p>Wren · slip 1 · from 20 November 2026</p><table><tr><th></th><th>Work</th><th>Who</th><th>Done</th></tr>${rows(jobs, ([n, work, who]) => `<tr><td>${n}</td><td>${work}</td><td>${who}</td><td class="box"></td></tr>`)}</table>
<p>Parts from the store are written on the back. Hours go to the office by Friday noon.</p><p class="hand">cutlass bearing: 1.2 mm play, leave it</p><p class="hand">zincs are on the shelf by the door</p><p class="keep">Orange copy: stays with the vessel</p></div>`,
};

const soundings: [number, number, string][] = [
  [30, 40, '12₄'], [58, 62, '11₈'], [92, 34, '9₆'], [120, 58, '8₁'], [40, 92, '10₂'], [76, 104, '7₅'], [112, 92, '6₃'], [150, 70, '5₁'], [142, 112, '3₈'], [96, 132, '4₉'],
  [56, 138, '8₈'], [26, 128, '11₁'], [30, 172, '9₃'], [70, 170, '6₂'], [110, 166, '2₉'], [168, 100, '2₄'], [180, 60, '3₂'], [160, 36, '7₀'], [200, 30, '4₄'], [210, 84, '1₇'],
]; // prettier-ignore
const coast =
  'M297 0 H238 C 232 22 246 38 240 56 C 232 78 214 84 220 104 C 226 122 206 130 190 138 C 168 148 150 150 148 168 C 146 184 128 192 118 210 H297 Z';
const harbour: Sheet = {
  id: 'harbour-chart',
  widthMm: 297,
  heightMm: 210,
  background: '#fdfdf9',
  html: `<svg class="whole" viewBox="0 0 297 210"><rect x="8" y="8" width="281" height="194" fill="#fff"/><g><clipPath id="neat"><rect x="8" y="8" width="281" height="194"/></clipPath><g clip-path="url(#neat)"><rect width="297" height="210" fill="#fdfefe"/>
<path d="M297 0 H150 C 140 40 168 60 150 84 C 128 110 84 112 80 142 C 78 172 60 190 52 210 H297 Z" fill="#d5ebf5"/><path d="M297 0 H196 C 188 30 204 48 192 70 C 178 92 168 88 156 108 C 138 130 110 132 104 160 C 100 180 92 194 86 210 H297 Z" fill="#a9d4ea"/>
<path d="${coast}" fill="#b9c48a" transform="translate(-7 -2)"/><path d="${coast}" fill="#ecd9a0" stroke="#222" stroke-width=".5"/>
<g fill="none" stroke="#4d7fa3" stroke-width=".35"><path d="M150 0 C 140 40 168 60 150 84 C 128 110 84 112 80 142 C 78 172 60 190 52 210"/><path d="M196 0 C 188 30 204 48 192 70 C 178 92 168 88 156 108 C 138 130 110 132 104 160 C 100 180 92 194 86 210"/></g>
<g fill="none" stroke="#9b7a3a" stroke-width=".3"><path d="M297 40 C 270 50 262 80 270 110 C 280 140 240 160 230 210"/><path d="M297 80 C 284 96 290 130 297 140"/></g>
<g fill="#6d6a62"><rect x="228" y="96" width="14" height="7"/><rect x="232" y="108" width="9" height="5"/><rect x="212" y="140" width="11" height="6" transform="rotate(-24 212 140)"/><rect x="246" y="88" width="7" height="10"/></g><path d="M221 104 L206 96 M219 112 L203 108" stroke="#222" stroke-width="1"/>
<g font-family="Sans" font-size="3.6" fill="#1c1b1a">${rows(soundings, ([x, y, d]) => `<text x="${x}" y="${y}">${d}</text>`)}</g>
<g stroke="#a2307f" fill="none" stroke-width=".5"><circle cx="64" cy="78" r="20"/><circle cx="64" cy="78" r="16" stroke-width=".25"/>${rows(Array.from({ length: 36 }), (_, i) => `<path d="M64 ${i % 9 ? 60 : 58} V62" transform="rotate(${i * 10} 64 78)"/>`)}<path d="M64 60 L67 78 L64 96 L61 78 Z" fill="#a2307f" stroke="none"/></g>
<g font-family="Serif" font-style="italic" fill="#a2307f" font-size="3.6"><text x="181" y="118">Fl.R.4s6m</text><text x="128" y="40">Fl(2)G.6s</text><path d="M178 116 l-5 -9 l3 -1 z M125 38 l-5 -9 l3 -1 z" fill="#d42a6d"/></g>
<g><path d="M172 120 h4 v4 h-4 z" fill="#c8202a"/><path d="M122 46 l2.6 -5 l2.6 5 z" fill="#1c7a3a"/></g>
<g font-family="Serif" fill="#222"><text x="250" y="70" font-size="7">Saltmarsh</text><text x="228" y="128" font-size="4">The Quay</text><text x="20" y="196" font-size="5" font-style="italic" fill="#2c5f86">Tern Deep</text><text x="150" y="186" font-size="4.4" font-style="italic">Oyster Flats, dries 1₂</text></g></g>
<rect x="8" y="8" width="281" height="194" fill="none" stroke="#222" stroke-width=".8"/><rect x="5" y="5" width="287" height="200" fill="none" stroke="#222" stroke-width=".3"/>
<g font-family="Serif" fill="#222"><text x="16" y="22" font-size="8" font-weight="700">Saltmarsh Harbour</text><text x="16" y="28" font-size="3.4">Depths in metres below the lowest tide · heights in metres above the highest</text><text x="16" y="33" font-size="3.4" fill="#a2307f">Not for navigation: a made-up place</text></g></svg>`,
};

const cover: Sheet = {
  id: 'yard-magazine',
  widthMm: 210,
  heightMm: 280,
  background: '#88b6cf',
  html: `<svg class="whole" viewBox="0 0 210 280"><defs><linearGradient id="sky" x2="0" y2="1"><stop offset="0" stop-color="#3f6f9c"/><stop offset=".5" stop-color="#9cc3d6"/><stop offset=".8" stop-color="#f2d9b4"/><stop offset="1" stop-color="#f4b98a"/></linearGradient><linearGradient id="sea" x2="0" y2="1"><stop offset="0" stop-color="#c99c82"/><stop offset=".2" stop-color="#4d7c8c"/><stop offset="1" stop-color="#123441"/></linearGradient><radialGradient id="sun"><stop offset="0" stop-color="#fff7df"/><stop offset=".3" stop-color="#ffe2a8" stop-opacity=".9"/><stop offset="1" stop-color="#ffd08a" stop-opacity="0"/></radialGradient><filter id="soft"><feGaussianBlur stdDeviation="2.4"/></filter></defs>
<rect width="210" height="172" fill="url(#sky)"/><g filter="url(#soft)" fill="#f7e8d8" opacity=".8"><ellipse cx="60" cy="96" rx="52" ry="7"/><ellipse cx="150" cy="80" rx="44" ry="6"/><ellipse cx="120" cy="120" rx="70" ry="5"/></g><circle cx="146" cy="150" r="58" fill="url(#sun)"/>
<path d="M0 172 L28 160 L52 166 L86 156 L118 168 L160 161 L210 172 Z" fill="#5b6f7c"/><rect y="170" width="210" height="110" fill="url(#sea)"/>${rows(Array.from({ length: 46 }), (_, i) => `<path d="M${(i * 53) % 210} ${176 + ((i * 29) % 96)} q 6 -2 12 0 t 12 0" stroke="#f4d4ae" stroke-opacity="${(0.6 - i / 100).toFixed(2)}" stroke-width="${(0.4 + ((i * 7) % 5) / 8).toFixed(2)}" fill="none"/>`)}
<g><path d="M92 74 V196 L40 196 C 56 160 74 120 92 74 Z" fill="#efe3cb"/><path d="M96 86 C 118 122 130 158 132 194 H96 Z" fill="#b9483b"/><path d="M93 66 V206" stroke="#4a3524" stroke-width="2"/><path d="M34 202 C 70 210 110 210 142 200 L132 216 C 100 224 66 222 46 216 Z" fill="#5a1f28"/><path d="M34 202 C 70 210 110 210 142 200" stroke="#e8c98a" stroke-width="1.4" fill="none"/><path d="M46 217 C 66 223 100 225 132 217 L122 240 L58 240 Z" fill="#0e2933" opacity=".5"/></g></svg>
<div class="cover"><h1>Slip &amp; Tide</h1><p>The boatyard’s yearbook · 2026</p><ul><li>Larch or iroko?<br><small>Planking a ketch in one winter</small></li><li>Eleven years aloft<br><small>What a swage tells</small></li><li>Tea, yard blend<br><small>The recipe at last</small></li></ul></div>`,
};

export const coloured: readonly Sheet[] = [envelope, jobSheet, harbour, cover];
