import { lazily } from './lazily';

/** Its own script: more than one screen zooms, and none of them is the first. */
export const Zoomable = lazily(() => import('./ZoomArea').then((m) => m.ZoomArea));
