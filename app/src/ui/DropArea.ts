import { lazily } from './lazily';

/** Its own script: neither the shelf nor a first visit needs it. */
export const DropArea = lazily(() => import('./DropZone').then((m) => m.DropZone));
