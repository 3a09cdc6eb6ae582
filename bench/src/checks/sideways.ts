import { findPages, type Point, type Raster } from '@libretto/core';
import { defocus } from '@libretto/demo/reel/defocus';
import { photograph } from '@libretto/demo/scene/photograph';
import type { Scene } from '@libretto/demo/scene/scene';
import { sheets } from '@libretto/demo/sheets/sheets';
import { dimmed, sheetScene } from './sheetScene';

const [width, height] = [1350, 1800];

const shots: readonly { name: string; scene?: (scene: Scene) => Scene; photo?: (photo: Raster) => void }[] = [
  { name: 'as usual' },
  { name: 'evening light', scene: dimmed(0.4, 5) },
  { name: 'out of focus by 3 px', photo: (photo) => defocus(photo, 3) },
  { name: 'out of focus by 6 px', photo: (photo) => defocus(photo, 6) },
]; // prettier-ignore

/** Every sheet of the demo photographed four ways round: how many pages are turned upright by themselves, and what is asked of the rest. */
export async function benchSideways(): Promise<void> {
  console.log('photograph                  pages   upright   asked rightly   asked wrongly   wrong unasked');
  for (const shot of shots) {
    const counts = { upright: 0, rightly: 0, wrongly: 0, unasked: 0 };
    for (const [i, sheet] of sheets.entries()) {
      const usual = await sheetScene(sheet, { angle: 0, seed: i + 1 });
      for (const quarter of [0, 1, 2, 3]) {
        const scene: Scene = {
          ...usual,
          // A sheet on its side is taken from further away.
          camera: { ...usual.camera, distance: usual.camera.distance * (quarter % 2 ? 1.4 : 1) },
          sheets: usual.sheets.map((laid) => ({ ...laid, angle: 90 * quarter + 3 })),
        };
        const { photo, pages } = photograph(shot.scene?.(scene) ?? scene, width, height);
        shot.photo?.(photo);
        const [outline] = findPages(photo);
        if (!outline || !pages[0]) continue;
        const [top] = pages[0].quad;
        const apart = ([x, y]: Point) => Math.hypot(x - top![0], y - top![1]);
        const near = outline.quad.map(apart);
        // The corner that is the page's top left one: so many quarters are missing.
        const missing = (4 - near.indexOf(Math.min(...near))) % 4;
        if (outline.perhapsTurn) counts[outline.perhapsTurn === 90 * missing ? 'rightly' : 'wrongly']++;
        else counts[missing ? 'unasked' : 'upright']++;
      }
    }
    const { upright, rightly, wrongly, unasked } = counts;
    console.log(
      `${shot.name.padEnd(28)}${String(upright + rightly + wrongly + unasked).padEnd(8)}${String(upright).padEnd(10)}${String(rightly).padEnd(16)}${String(wrongly).padEnd(16)}${unasked}`,
    );
  }
}
