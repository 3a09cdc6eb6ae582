import path from 'node:path';
import { findPages } from '@libretto/core';
import { complain, decode } from './decode';

/** One JSON line a photo; exit code 1 when any photo could not be read. */
export async function findCommand(files: readonly string[]): Promise<number> {
  if (!files.length) {
    console.error('find: name at least one photo');
    return 1;
  }
  let code = 0;
  for (const file of files) {
    try {
      const photo = await decode(file);
      const start = performance.now();
      const pages = findPages(photo);
      const ms = Math.round((performance.now() - start) * 10) / 10;
      console.log(
        JSON.stringify({ file: path.basename(file), width: photo.width, height: photo.height, ms, pages: pages.map(rounded) }),
      );
    } catch (error) {
      complain(file, error);
      code = 1;
    }
  }
  return code;
}

function rounded({ quad, confidence, polygon, spread }: ReturnType<typeof findPages>[number]) {
  const point = (p: readonly number[]) => p.map((v) => Math.round(v * 100) / 100);
  return {
    quad: quad.map(point),
    confidence: Math.round(confidence * 1000) / 1000,
    ...(spread && { spread }),
    ...(polygon && { polygon: polygon.map(point) }),
  };
}
