import type { Place } from '@libretto/model';

export const placeIcons: Readonly<Record<Place['kind'], string>> = {
  folder: 'cloud-outline',
  bucket: 'pail-outline',
  mail: 'email-outline',
};
