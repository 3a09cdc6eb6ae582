import { createRequire } from 'node:module';
import { pathToFileURL } from 'node:url';

const require = createRequire(import.meta.url);
const face = (family: string, weight: number, file: string) =>
  `@font-face{font-family:"${family}";font-weight:${weight};src:url("${pathToFileURL(require.resolve(file)).href}")}`;

const fonts = [
  face('Serif', 400, '@expo-google-fonts/fraunces/400Regular/Fraunces_400Regular.ttf'),
  face('Serif', 700, '@expo-google-fonts/fraunces/700Bold/Fraunces_700Bold.ttf'),
  face('Sans', 400, '@expo-google-fonts/atkinson-hyperlegible/400Regular/AtkinsonHyperlegible_400Regular.ttf'),
  face('Sans', 700, '@expo-google-fonts/atkinson-hyperlegible/700Bold/AtkinsonHyperlegible_700Bold.ttf'),
  face('Hand', 400, '@expo-google-fonts/kalam/400Regular/Kalam_400Regular.ttf'),
  face('Till', 400, '@expo-google-fonts/courier-prime/400Regular/CourierPrime_400Regular.ttf'),
  face('Till', 700, '@expo-google-fonts/courier-prime/700Bold/CourierPrime_700Bold.ttf'),
].join('');

/** Looks of the demo's papers. Sizes are of print: mm and pt. */
export const style = `${fonts}
*{box-sizing:border-box}html,body{margin:0;padding:0}body{font:10.5pt/1.45 Sans;color:#1d1b1a;overflow:hidden;position:relative;padding:18mm 20mm}
h1{font:700 22pt/1.1 Serif;margin:0 0 2mm}h2{font:700 14pt/1.2 Serif;margin:7mm 0 2mm}h3{font:700 11.5pt/1.2 Serif;margin:5mm 0 1.5mm}p{margin:0 0 3mm}.sub{color:#555}
hr{border:0;border-top:.5mm solid #222;margin:2mm 0 5mm}.hand{font-family:Hand;color:#20367c}ol{padding-left:6mm}li{margin-bottom:2mm}
table{border-collapse:collapse;width:100%;margin:3mm 0}th,td{text-align:left;padding:1.1mm 2.5mm;font-size:10pt}.grid th{background:#e6ddd0}.grid th,.grid td{border:.25mm solid #6b6055}
footer{position:absolute;bottom:10mm;left:20mm;right:20mm;font-size:8pt;color:#555}.drawing{width:100%;margin:4mm 0}.sign{margin-top:8mm}.sign .hand{font-size:20pt}
.stamp{position:absolute;right:26mm;bottom:60mm;border:.8mm solid #9c2f3b;color:#9c2f3b;padding:2.5mm 5mm;font:700 12pt/1.3 Sans;text-align:center;transform:rotate(-9deg);border-radius:2mm}
.docket{margin:-8mm -8mm}.docket header{display:flex;justify-content:space-between}.docket .no{font:700 16pt Till;text-align:right;color:#a0222c}.no small{display:block;font:9pt Sans;color:#333}.docket th,.docket td{border-bottom:.25mm solid #8a5a5c}.fine{font-size:7.5pt}
.till{font:8.6pt/1.35 Till;margin:-12mm -15mm}.till h1{font:700 14pt Till;text-align:center}.mid{text-align:center}.till p{margin:0 0 1.2mm;white-space:pre-wrap}.row{display:flex;justify-content:space-between;gap:2mm}.total{font:700 13pt Till}.dash{border-top:.3mm dashed #444;margin:2.5mm 0!important}
.spread{display:flex;position:absolute;inset:0}.spread section{width:50%;padding:20mm 22mm;position:relative;font-size:11pt}.spread section:nth-child(2) footer{text-align:right}
.card{margin:-13mm -14mm}.card h1{font-size:15pt}.card p{margin:0 0 1mm;font-size:8.5pt}.card hr{margin:3mm 0}
.board{font-size:70pt;line-height:1.25;padding:10mm 24mm}.board h1{font:400 100pt Hand;color:#222;margin-bottom:12mm}.board p{margin:0 0 6mm}.blue{color:#1f4fa3}.red{color:#c1272d}.green{color:#1d7a3c}.board svg{position:absolute;right:30mm;bottom:14mm;width:280mm}
.note{font-size:17pt;line-height:12mm;position:absolute;inset:0;padding:14mm 14mm;background:repeating-linear-gradient(transparent 0 11.7mm,#b9cde0 11.7mm 12mm);background-position:0 11mm}.note p{margin:0;height:12mm}
.two{display:flex;gap:20mm;font-size:12pt}.two .hand{font-size:22pt;border-bottom:.3mm solid #444;min-width:60mm}
.fields{display:grid;grid-template-columns:repeat(3,1fr);gap:7mm;margin:6mm 0 8mm}.fields i{display:block;height:34mm;margin-bottom:1.5mm}
.whole{position:absolute;inset:0;width:100%;height:100%}
.envelope .from{position:absolute;left:14mm;top:12mm;font-size:9pt}.envelope .post{position:absolute;right:34mm;top:10mm;width:60mm}.stamp-of-ours{position:absolute;right:12mm;top:11mm;width:22mm;mix-blend-mode:multiply}
.window{position:absolute;left:24mm;top:62mm;width:96mm;height:38mm;border-radius:3mm;background:#e6e2d8;border:.3mm solid #9a7648;padding:6mm 8mm;font:11pt/1.4 Sans}.urgent{position:absolute;left:26mm;bottom:20mm;font-size:17pt}
.job{margin:-6mm -8mm}.job table th,.job table td{border:.3mm solid #3a2412;font-size:9.5pt}.job .box{width:12mm}.job .hand{font-size:15pt;margin:0}.keep{margin-top:8mm;font:700 9pt Sans;letter-spacing:.4pt}
.cover{position:absolute;inset:0;padding:14mm 16mm;color:#fffaf0}.cover h1{font-size:52pt;color:#fff3d8}.cover ul{list-style:none;padding:0;margin:118mm 0 0;text-align:right;font:700 13pt/1.25 Serif;text-shadow:0 0 1mm #0008}.cover li{margin-bottom:5mm}.cover small{font:10pt Sans}
`;
