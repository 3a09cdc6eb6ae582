import { findPages, flatten, kinship, pageSignature, type Raster, type Signature } from '@libretto/core';
import { defocus } from '@libretto/demo/reel/defocus';
import { photograph } from '@libretto/demo/scene/photograph';
import type { Scene } from '@libretto/demo/scene/scene';
import { sheets } from '@libretto/demo/sheets/sheets';
import { filledIn } from '../filledIn';
import { dimmed, sheetScene } from './sheetScene';

/** Half of a phone's pixels each way are enough. */
const [width, height] = [1350, 1800];

/** As the app looks at pages. */
const inspectEdgePx = 900;

interface Again {
  name: string;
  scene?: (scene: Scene) => Scene;
  photo?: (photo: Raster) => void;
  /** Another copy of the same form, filled in otherwise: not the same page. */
  other?: boolean;
}

const turned = (scene: Scene): Scene => ({
  ...scene,
  desk: 'slate',
  camera: { ...scene.camera, tilt: 20, azimuth: 200, roll: 6 },
  sheets: scene.sheets.map((sheet) => ({ ...sheet, angle: sheet.angle + 175 })),
});

const again: readonly Again[] = [
  { name: 'a moment later', scene: (scene) => ({ ...scene, camera: { ...scene.camera, at: [4, -3] } }) },
  { name: 'other desk, upside down', scene: turned },
  { name: 'evening light', scene: dimmed(0.4, 5) },
  { name: 'with a thumb on it', scene: (scene) => ({ ...scene, sheets: scene.sheets.map((sheet) => ({ ...sheet, picture: held(sheet.picture) })) }) },
  { name: 'out of focus by 2 px', photo: (photo) => defocus(photo, 2) },
  ...[1, 2, 4, 8].map((fields): Again => ({ name: `another copy, ${fields} fields`, other: true, scene: (scene) => ({ ...scene, sheets: scene.sheets.map((sheet, i) => ({ ...sheet, picture: filledIn(sheet.picture, fields, 10 * fields + i) })) }) })),
]; // prettier-ignore

/** A thumb's breadth and more at the sheet's left edge, skin-coloured: an ellipse, as large as a share of the shorter side. */
function held(picture: Raster): Raster {
  const { width: w, height: h, channels } = picture;
  const data = new Uint8Array(picture.data);
  const [rx, ry] = [0.16 * Math.min(w, h), 0.08 * Math.min(w, h)];
  for (let y = Math.floor(0.6 * h - ry); y < 0.6 * h + ry; y++)
    for (let x = 0; x < rx; x++)
      if (Math.hypot(x / rx, (y - 0.6 * h) / ry) < 1) data.set([196, 146, 122], (y * w + x) * channels);
  return { ...picture, data };
}

function signatureOf(photo: Raster): Signature | null {
  const [outline] = findPages(photo);
  if (!outline) return null;
  const { image } = flatten(photo, { quad: outline.quad, turn: 0 }, { maxEdgePx: inspectEdgePx });
  const [w, h] = [image.width, image.height];
  return pageSignature(image, [[0, 0], [w - 1, 0], [w - 1, h - 1], [0, h - 1]]); // prettier-ignore
}

/**
 * Every sheet of the demo photographed twice, found and flattened as the app does: whether the second photograph is taken for the first one's page, and for no other's. Some
 * sheets are the next pages of the same document.
 */
export async function benchSamePage(): Promise<void> {
  const scenes = await Promise.all(sheets.map((sheet, i) => sheetScene(sheet, { angle: 2 * (i % 6) - 5, seed: i + 1 })));
  const signed = (change: Again, i: number) => {
    const scene = { ...scenes[i]!, seed: 100 + i };
    const { photo } = photograph(change.scene?.(scene) ?? scene, width, height);
    change.photo?.(photo);
    return signatureOf(photo);
  };
  const first = sheets.map((_, i) => signed({ name: 'first' }, i));
  console.log('photographed again          same page   taken for it   another taken for it');
  for (const change of again) {
    const second = sheets.map((_, i) => signed(change, i));
    let same = 0;
    let others = 0;
    second.forEach((own, i) =>
      first.forEach((seen, j) => {
        if (!own || !seen || own.blank || seen.blank || kinship(own, seen) !== 'same') return;
        if (i === j) same++;
        else others++;
      }),
    );
    console.log(
      `${change.name.padEnd(28)}${(change.other ? 'no' : 'yes').padEnd(12)}${`${same} of ${sheets.length}`.padEnd(15)}${others} of ${sheets.length * (sheets.length - 1)}`,
    );
  }
}
