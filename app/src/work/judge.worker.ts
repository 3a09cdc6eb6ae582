import * as Comlink from 'comlink';
import { likeness, pageSignature, sharpness, sharpSlope, type Quad, type Signature } from '@libretto/core';
import { detail, small } from './pictures';

/** What was seen when the shutter went; outlines and spots in shares of the picture. */
export interface Wanted {
  quad: Quad;
  signature: Signature | null;
  detailAt: readonly [number, number] | null;
}

const api = {
  /** Whether a still shows the page that was wanted, and how sharp its print is (1 and more: sharp; null: no print to tell by). */
  async judge(still: Blob, { quad, signature, detailAt }: Wanted): Promise<{ same: boolean; sharp: number | null }> {
    const whole = await createImageBitmap(still);
    const raster = small(whole);
    const inFrame = quad.map(([x, y]) => [x * raster.width - 0.5, y * raster.height - 0.5]) as unknown as Quad;
    const same = !signature || likeness(pageSignature(raster, inFrame), signature) > 0.6;
    const middle = (k: 0 | 1) => quad.reduce((s, p) => s + p[k], 0) / 4;
    const slope = sharpness(detail(whole, detailAt ?? [middle(0), middle(1)]))?.slope ?? null;
    whole.close();
    return { same, sharp: slope === null ? null : slope / sharpSlope };
  },
};

export type JudgeApi = typeof api;
Comlink.expose(api);
