import { GridRows } from './gridRows';
import { createPlane, createRaster, type Plane, type Raster } from './raster';

/** A part of a picture, px; wholly inside it. */
export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

export function crop({ width, channels, data }: Raster, box: Box): Raster {
  const target = createRaster(box.width, box.height, channels);
  for (let y = 0; y < box.height; y++) {
    const from = ((box.y + y) * width + box.x) * channels;
    target.data.set(data.subarray(from, from + box.width * channels), y * box.width * channels);
  }
  return target;
}

/** The part of a coarse grid that lies over a part of its picture, with cells about as large. */
export function cropGrid(grid: Plane, picture: { width: number; height: number }, box: Box): Plane {
  const across = Math.max(2, Math.ceil((box.width * grid.width) / picture.width));
  const down = Math.max(2, Math.ceil((box.height * grid.height) / picture.height));
  const target = createPlane(across, down);
  // The picture's own rows and columns at the middles of the new cells.
  const rows = new GridRows(grid, picture.width, picture.height);
  for (let j = 0; j < down; j++) {
    const row = rows.row(Math.min(picture.height - 1, Math.floor(box.y + ((j + 0.5) * box.height) / down)));
    for (let i = 0; i < across; i++)
      target.data[j * across + i] = row[Math.min(picture.width - 1, Math.floor(box.x + ((i + 0.5) * box.width) / across))];
  }
  return target;
}
