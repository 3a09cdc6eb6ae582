import type { Place } from '@libretto/model';

export const placeIcons: Readonly<Record<Place['kind'], string>> = { folder: 'cloud-outline', mail: 'email-outline' };
