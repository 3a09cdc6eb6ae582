import { usualLight } from '@libretto/demo/photographs';
import type { Lighting } from '@libretto/demo/scene/scene';
import type { Roll } from './roll';

/** Light from anywhere, of a lamp's or the day's colour, often with a hand's or phone's shadow; `dim` is what is left of it. */
export const anyLight = (roll: Roll, dim: number): Lighting => ({
  ...usualLight,
  ambient: usualLight.ambient * dim * roll(0.8, 1.1),
  lamp: { x: roll(-400, 400), y: roll(-400, 400), z: roll(350, 700), power: usualLight.lamp.power * dim },
  colour: [1, roll(0.9, 1), roll(0.72, 1.02)],
  ...(roll(0, 1) < 0.45 && { shadow: { x: roll(-60, 60), y: roll(-80, 80), width: 130, height: 250, angle: roll(-60, 60), softMm: roll(8, 70), depth: roll(0.4, 0.8) } }), // prettier-ignore
});
