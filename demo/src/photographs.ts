import type { Camera } from './scene/pinhole';
import type { Bend, Lighting } from './scene/scene';
import type { Desk } from './scene/desk';

/** One photograph of the demo: which sheets lie how, from where and in what light. */
export interface Shot {
  file: string;
  /** Document of the demo that it belongs to. */
  document: string;
  /** On the shelf from the start; the others come in as photographs. */
  onShelf: boolean;
  sheets: { id: string; xMm?: number; yMm?: number; angle?: number; bend?: Bend; spread?: boolean }[];
  desk: Desk;
  camera: Partial<Camera>;
  light?: Partial<Lighting>;
  noise?: number;
  landscape?: boolean;
  quality?: number;
}

const flat: Bend = { kind: 'flat' };
export const usualCamera: Camera = { at: [0, 0], distance: 308, tilt: 12, azimuth: 80, roll: 0, focal: 0.76 };
export const usualLight: Lighting = { ambient: 0.5, lamp: { x: -180, y: -260, z: 520, power: 0.52 }, colour: [1, 0.97, 0.9] };
const warm: [number, number, number] = [1, 0.9, 0.74];
const phoneShadow = { x: 45, y: 70, width: 130, height: 260, angle: 14, softMm: 30, depth: 0.75 };

export const shots: readonly Shot[] = [
  { file: 'hull-survey-1', document: '2026-11-20 Hull survey Wren', onShelf: true, sheets: [{ id: 'hull-survey-1', angle: 3, bend: flat }], desk: 'oak', camera: { distance: 320, tilt: 14, azimuth: 70, roll: 2 } },
  { file: 'hull-survey-2', document: '2026-11-20 Hull survey Wren', onShelf: true, sheets: [{ id: 'hull-survey-2', angle: -4 }], desk: 'oak', camera: { distance: 316, tilt: 18, azimuth: 110, roll: -3 }, light: { shadow: phoneShadow } },
  { file: 'hull-survey-3', document: '2026-11-20 Hull survey Wren', onShelf: true, sheets: [{ id: 'hull-survey-3', angle: 1 }], desk: 'oak', camera: { distance: 323, tilt: 8, azimuth: 20, roll: 1 }, light: { colour: warm } },
  { file: 'timber-docket', document: '2026-11-20 Timber docket 4471', onShelf: true, sheets: [{ id: 'timber-docket', angle: -6 }], desk: 'slate', camera: { distance: 231, tilt: 22, azimuth: 95, roll: 4 }, landscape: true },
  { file: 'chandlery-receipt', document: '2026-11-20 Chandlery receipt', onShelf: true, sheets: [{ id: 'chandlery-receipt', angle: 5 }], desk: 'felt', camera: { distance: 262, tilt: 10, azimuth: 60, roll: -2 }, light: { colour: warm } },
  { file: 'mooring-agreement-1', document: '2026-11-19 Mooring agreement 12', onShelf: false, sheets: [{ id: 'mooring-agreement-1', angle: -2 }], desk: 'laminate', camera: { distance: 385, tilt: 10, azimuth: 100, roll: 2 } },
  { file: 'mooring-agreement-2', document: '2026-11-19 Mooring agreement 12', onShelf: false, sheets: [{ id: 'mooring-agreement-2', angle: 3 }], desk: 'laminate', camera: { distance: 377, tilt: 13, azimuth: 75, roll: -1 }, light: { shadow: { ...phoneShadow, depth: 0.6, softMm: 60 } } },
  { file: 'engine-handbook', document: 'Engine handbook, fuel system', onShelf: false, sheets: [{ id: 'engine-handbook', bend: { kind: 'book', heightMm: 19, reachMm: 42 }, spread: true, angle: 1 }], desk: 'felt', camera: { distance: 339, tilt: 20, azimuth: 90, roll: 1 }, landscape: true },
  { file: 'suppliers-cards', document: 'Suppliers, November', onShelf: false, sheets: [{ id: 'oakum-and-rope', xMm: -52, yMm: -38, angle: 3 }, { id: 'brasswell', xMm: 54, yMm: -35, angle: -5 }, { id: 'tern-sails', xMm: -50, yMm: 40, angle: -2 }, { id: 'fathom-electrics', xMm: 53, yMm: 38, angle: 6 }], desk: 'oak', camera: { distance: 185, tilt: 9, azimuth: 85, roll: -2 }, landscape: true },
  { file: 'job-board', document: '2026-11-19 Job board', onShelf: false, sheets: [{ id: 'job-board' }], desk: 'wall', camera: { distance: 962, tilt: 16, azimuth: 15, roll: 1 }, light: { lamp: { x: -700, y: -900, z: 1500, power: 0.55 } }, landscape: true },
  { file: 'mast-step-note', document: '2026-11-19 Mast step note', onShelf: false, sheets: [{ id: 'mast-step-note', angle: -9, bend: { kind: 'curl', heightMm: 9 } }], desk: 'oak', camera: { distance: 223, tilt: 20, azimuth: 120, roll: 3 } },
  { file: 'paint-chart', document: 'Paint chart 2026', onShelf: false, sheets: [{ id: 'paint-chart', angle: 4 }], desk: 'checked', camera: { distance: 320, tilt: 11, azimuth: 60, roll: -2 }, light: { colour: warm, shadow: { ...phoneShadow, x: -60, angle: -20, softMm: 70, depth: 0.5 } } },
  { file: 'kraft-envelope', document: 'Envelope, Marram and Pole', onShelf: false, sheets: [{ id: 'kraft-envelope', angle: 4 }], desk: 'slate', camera: { distance: 240, tilt: 16, azimuth: 85, roll: 2 }, landscape: true },
  { file: 'orange-job-sheet', document: '2026-11-20 Job sheet 26-208', onShelf: false, sheets: [{ id: 'orange-job-sheet', angle: -5 }], desk: 'laminate', camera: { distance: 232, tilt: 14, azimuth: 100, roll: -2 }, light: { shadow: { ...phoneShadow, depth: 0.55 } } },
  { file: 'harbour-chart', document: 'Harbour chart', onShelf: false, sheets: [{ id: 'harbour-chart', angle: -2 }], desk: 'felt', camera: { distance: 300, tilt: 13, azimuth: 80, roll: 1 }, light: { colour: warm }, landscape: true },
  { file: 'yard-magazine', document: 'Slip and Tide 2026', onShelf: false, sheets: [{ id: 'yard-magazine', angle: 3, bend: { kind: 'curl', heightMm: 5 } }], desk: 'oak', camera: { distance: 310, tilt: 12, azimuth: 70, roll: -1 } },
]; // prettier-ignore
