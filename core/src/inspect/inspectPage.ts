import { gaussian } from '../raster/blur';
import { lumaPlane } from '../raster/colour';
import type { Plane, Quad, Raster } from '../raster/raster';
import { shrinkToEdge } from '../raster/resize';
import { percentiles } from '../enhance/levels';
import { estimateLight } from '../enhance/light';
import type { FlatPage } from '../recipe/render';
import { pageGrain } from './pageGrain';
import { pageSharpness } from './pageSharpness';
import { shareOutside } from './shareOutside';
import { textSkew } from '../upright/skew';

export type Fault = 'blurred' | 'cut-off' | 'glare' | 'dark' | 'grainy' | 'low-resolution' | 'crooked' | 'blank';
export type Severity = 'retake' | 'look' | 'note';

/** A doubt about a page, with what was measured. */
export interface Finding {
  id: Fault;
  severity: Severity;
  /** blurred: width of the print's edges in mm; cut-off, glare, blank: share of the page; dark: level of the paper 0..255; grainy: see `pageGrain`; low-resolution: dpi; crooked: degrees clockwise by which the lines of print slope. */
  value: number;
}

/** What is wrong with a page, and how finely it is seen. */
export interface Inspection {
  findings: Finding[];
  /** Width of the print's edges on paper, mm: of two photos of one sheet the better one has less; null where there is no print to tell by. */
  edgeMm: number | null;
}

/**
 * Limits, chosen from scripted photographs with and without each fault (docs/checks.md has the measurements): [retake, look] from the worse side.
 */
export const limits = {
  /** Width of the print's edges on paper, mm, and the slope per photo pixel that a sharp lens gives at least. */
  blurMm: [0.62, 0.46],
  blurSlope: 0.26,
  /** Share of the page outside the photo. */
  outside: [0.05, 0.006],
  /** Share of the page under glare. */
  glare: [0.04, 0.006],
  /** Level of the paper. */
  dark: [32, 72],
  /** Noise as coarse as strokes, levels. */
  grain: [13.5, 9.7],
  dpi: [90, 130],
  /** Degrees by which lines slope on a flattened page, and how clearly they are seen at least. */
  slope: 0.85,
  slopeStrength: 8,
  /** Share of the page that is neither paper nor margin. */
  blank: 0.0007,
} as const;

const lookEdgePx = 700;
/** Lines are seen on a smaller copy too, in a quarter of the time. */
const linesEdgePx = 480;

/**
 * Looks for what is wrong with a page as it was photographed.
 *
 * @param photo upright; @param quad the page's corners in it, or null for the whole photo; @param flat the page flattened at any resolution.
 */
export function inspectPage(photo: Raster, quad: Quad | null, flat: FlatPage): Inspection {
  const findings: Finding[] = [];
  const graded = (id: Fault, value: number, [retake, look]: readonly [number, number]): boolean => {
    const worse = retake > look ? (limit: number) => value > limit : (limit: number) => value < limit;
    if (worse(look)) findings.push({ id, severity: worse(retake) ? 'retake' : 'look', value });
    return worse(look);
  };
  const small = shrinkToEdge(flat.image, lookEdgePx);
  const luma = lumaPlane(small);
  const [median, bright, brightest] = percentiles(luma.data, [0.6, 0.9, 0.995]);
  // A dark card in good light has bright print; noise takes some of what is brightest in dim light.
  const paper = Math.max(bright, brightest - 40);
  // In little light a phone makes the paper brighter than it is, and its noise with it: where both are seen, the dark says it.
  const dark = graded('dark', paper, limits.dark);
  const grain = quad && !dark ? pageGrain(photo, quad, flat.photoDpi) : null;
  if (grain !== null) graded('grainy', grain, limits.grain);

  if (quad) graded('cut-off', shareOutside(quad, photo), limits.outside);

  let edgeMm: number | null = null;
  const ink = inkShare(small);
  if (ink < limits.blank) findings.push({ id: 'blank', severity: 'note', value: ink });
  else {
    const slope = quad ? pageSharpness(photo, quad) : null;
    edgeMm = slope === null ? null : 25.4 / (slope * flat.photoDpi);
    if (slope !== null && edgeMm !== null && slope < limits.blurSlope) graded('blurred', edgeMm, limits.blurMm);
    if (flat.sizeName) graded('low-resolution', flat.photoDpi, limits.dpi);
    // Edges that were followed wrongly, or a surface that does not fit, leave the print sloping.
    const { degrees, strength } = textSkew(shrinkToEdge(small, linesEdgePx));
    if (Math.abs(degrees) >= limits.slope && strength >= limits.slopeStrength)
      findings.push({ id: 'crooked', severity: 'look', value: degrees });
  }
  // Where the paper itself is nearly clipped, glare cannot be told from it.
  if (median < 225) graded('glare', glareShare(small), limits.glare);
  return { findings, edgeMm };
}

/** Share of the page, without its margins, that is clearly darker or more coloured than its paper. */
function inkShare(page: Raster): number {
  const light = estimateLight(page);
  if (light.dark) return 1;
  const { width, height, channels } = page;
  const luma = gaussian(lumaPlane(page), 0.8);
  const margin = Math.round(0.04 * Math.max(width, height));
  const scale = light.paper.width / width;
  let ink = 0;
  let all = 0;
  for (let y = margin; y < height - margin; y++)
    for (let x = margin; x < width - margin; x++) {
      const p = y * width + x;
      const at = Math.min(light.paper.height - 1, Math.floor(y * scale)) * light.paper.width + Math.min(light.paper.width - 1, Math.floor(x * scale)); // prettier-ignore
      all++;
      if (luma.data[p] < 0.82 * light.paper.data[at] || (channels > 1 && light.pictures.data[at] > 0.5)) ink++;
    }
  return all ? ink / all : 0;
}

/** Share of the page in patches where all channels are clipped and nothing is left to see. */
function glareShare(page: Raster): number {
  const { width, height, channels, data } = page;
  const clipped: Plane = { width, height, data: new Float32Array(width * height) };
  for (let i = 0, p = 0; i < width * height; i++, p += channels)
    clipped.data[i] = (channels === 1 ? data[p] : Math.min(data[p], data[p + 1], data[p + 2])) >= 249 ? 1 : 0;
  // Single clipped pixels are white print or noise.
  const patches = gaussian(clipped, 2).data;
  let n = 0;
  for (const v of patches) if (v > 0.9) n++;
  return n / (width * height);
}
