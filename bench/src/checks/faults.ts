import { flatten, inspectPage, type Fault, type Quad, type Raster } from '@libretto/core';
import { defocus } from '@libretto/demo/reel/defocus';
import { photograph } from '@libretto/demo/scene/photograph';
import type { LaidSheet, Lighting, Scene } from '@libretto/demo/scene/scene';
import { sheets } from '@libretto/demo/sheets/sheets';
import { dimmed, height, sheetScene, width } from './sheetScene';

const shown = ['hull-survey-1', 'mooring-agreement-1', 'timber-docket', 'chandlery-receipt', 'mast-step-note', 'brasswell', 'paint-chart']; // prettier-ignore

/** Below so many pixels an inch of the page, by the scene's own measures, Tesseract misreads 11 to 60 % of the demo's sheets, at 90 to 110 it misreads 2 to 15 %: then pixels are too few, however far away the camera stood. */
const tooFewDpi = 90;

/** One way to photograph a sheet. */
interface Script {
  /** What is wrong, or null. */
  fault: Fault | null;
  name: string;
  /** Whether the fault can plainly be seen; fainter ones are shown, but not counted. */
  plain: boolean;
  scene?: (scene: Scene, sheet: LaidSheet) => Scene;
  photo?: (photo: Raster, quad: Quad) => void;
}

const light = (change: Partial<Lighting>) => (scene: Scene) => ({ ...scene, light: { ...scene.light, ...change } });
const shadow = { x: 30, y: 40, width: 120, height: 240, angle: 14, softMm: 30, depth: 0.7 };

const scripts: Script[] = [
  { fault: null, name: 'as usual', plain: true },
  { fault: null, name: 'warm light, shadow', plain: true, scene: light({ colour: [1, 0.9, 0.74], shadow }) },
  { fault: null, name: 'evening light', plain: true, scene: dimmed(0.5, 5) },
  ...[0.0006, 0.0012, 0.002, 0.0035].map((radius): Script => ({ fault: 'blurred', name: `out of focus by ${(radius * height).toFixed(1)} px`, plain: radius > 0.0015, photo: (photo) => defocus(photo, radius * height) })),
  ...[0.14, 0.07, 0.03].map((factor): Script => ({ fault: 'dark', name: `light × ${factor}`, plain: factor < 0.1, scene: dimmed(factor, 8) })),
  { fault: null, name: 'light × 0.25', plain: true, scene: dimmed(0.25, 8) },
  ...[24, 44].map((noise): Script => ({ fault: 'grainy', name: `light × 0.25, noise ${noise}`, plain: noise > 40, scene: dimmed(0.25, noise) })),
  ...[0.01, 0.05, 0.15].map((share): Script => ({ fault: 'cut-off', name: `${100 * share} % outside`, plain: share > 0.02, scene: (scene, sheet) => ({ ...scene, camera: { ...scene.camera, at: [roomMm(scene) - (0.5 - share) * sheet.widthMm, 0] } }) })),
  ...[0.03, 0.07].map((radius): Script => ({ fault: 'glare', name: `glare, radius ${(100 * radius).toFixed(0)} %`, plain: radius > 0.05, photo: (photo, quad) => shine(photo, quad, radius) })),
  ...[1.5, 2.6].map((factor): Script => ({ fault: 'low-resolution', name: `from ${factor} × as far`, plain: factor > 2, scene: (scene) => ({ ...scene, camera: { ...scene.camera, distance: scene.camera.distance * factor } }) })),
  { fault: 'blank', name: 'blank sheet', plain: true, scene: (scene) => ({ ...scene, sheets: scene.sheets.map((s) => ({ ...s, picture: white })) }) },
]; // prettier-ignore

const white: Raster = { width: 8, height: 8, channels: 3, data: new Uint8Array(192).fill(248) };
/** Half of what is seen across the desk, mm: the page is pushed out of the picture by moving the camera. */
const roomMm = (scene: Scene) => (scene.camera.distance * width) / height / scene.camera.focal / 2;

/** A lamp's reflection: a patch where nothing is left, with a soft rim. */
function shine(photo: Raster, quad: Quad, radius: number): void {
  const [cx, cy] = [0, 1].map((k) => 0.6 * quad[0][k as 0 | 1] + 0.4 * quad[2][k as 0 | 1]) as [number, number];
  const r = radius * Math.hypot(quad[2][0] - quad[0][0], quad[2][1] - quad[0][1]);
  for (let y = Math.max(0, Math.floor(cy - 2 * r)); y < Math.min(photo.height, cy + 2 * r); y++)
    for (let x = Math.max(0, Math.floor(cx - 2 * r)); x < Math.min(photo.width, cx + 2 * r); x++) {
      const d = Math.hypot(x - cx, y - cy) / r;
      const more = d < 1 ? 255 : 255 * Math.max(0, 2 - d) ** 2 * 0.6;
      for (let c = 0, p = (y * photo.width + x) * photo.channels; c < 3; c++, p++) photo.data[p] = Math.min(255, photo.data[p]! + more); // prettier-ignore
    }
}

/** Sheets photographed with and without each fault: what the checks say of them, with the values that they measured. */
export async function benchFaults(): Promise<void> {
  const right = new Map<Fault, { found: number; wanted: number; said: number; true: number }>();
  const of = (fault: Fault) => right.get(fault) ?? right.set(fault, { found: 0, wanted: 0, said: 0, true: 0 }).get(fault)!;
  console.log('photograph                   said (of its sheets)         values measured');
  for (const script of scripts) {
    const said = new Map<Fault, number>();
    const values: number[] = [];
    for (const [i, id] of shown.entries()) {
      const sheet = sheets.find((s) => s.id === id)!;
      const usual = await sheetScene(sheet, { angle: 2 * i - 5, seed: i + 1 });
      const { photo, pages } = photograph(script.scene?.(usual, usual.sheets[0]!) ?? usual, width, height);
      const quad = pages[0]!.quad as unknown as Quad;
      script.photo?.(photo, quad);
      const page = flatten(photo, { quad, turn: 0, size: { widthMm: sheet.widthMm, heightMm: sheet.heightMm, name: 'a4' } }, { maxEdgePx: 900 }); // prettier-ignore
      const { findings } = inspectPage(photo, quad, page);
      const dpi = (25.4 * Math.hypot(quad[1][0] - quad[0][0], quad[1][1] - quad[0][1])) / sheet.widthMm;
      const wanted = script.fault !== null && (script.fault !== 'low-resolution' || dpi < tooFewDpi);
      for (const { id: fault, value } of findings) {
        said.set(fault, (said.get(fault) ?? 0) + 1);
        if (fault === script.fault) values.push(value);
        // A faint fault may be told or not; a fault that comes with another one (few pixels are blurred too) is no false alarm.
        if (script.plain && (script.fault === null || fault === script.fault)) {
          of(fault).said++;
          if (wanted && fault === script.fault) of(fault).true++;
        }
      }
      if (script.plain && script.fault && wanted) {
        of(script.fault).wanted++;
        if (findings.some((f) => f.id === script.fault)) of(script.fault).found++;
      }
    }
    console.log(
      `${script.name.padEnd(29)}${[...said].map(([f, n]) => `${f} ${n}/${shown.length}`).join(', ').padEnd(28)} ${values.sort((a, b) => a - b).map((v) => +v.toPrecision(2)).join(' ')}`,
    ); // prettier-ignore
  }
  console.log('fault            plainly visible   recall   precision');
  for (const [fault, r] of right)
    console.log(`${fault.padEnd(17)}${String(r.wanted).padEnd(18)}${(r.found / r.wanted).toFixed(2).padEnd(9)}${r.said ? (r.true / r.said).toFixed(2) : '–'}`); // prettier-ignore
}
