/** What hangs together in a picture: its bounding box, both ends included, and its pixels. */
export interface Mark {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
  area: number;
}

/** The 8-connected marks of a mask (anything but 0 is on), in the order of their first pixels. */
export function marksOf(mask: Uint8Array, width: number, height: number): Mark[] {
  const seen = new Uint8Array(mask.length);
  const marks: Mark[] = [];
  const stack: number[] = [];
  for (let start = 0; start < mask.length; start++) {
    if (!mask[start] || seen[start]) continue;
    seen[start] = 1;
    stack.push(start);
    let x0 = width;
    let y0 = height;
    let x1 = 0;
    let y1 = 0;
    let area = 0;
    while (stack.length) {
      const p = stack.pop()!;
      const x = p % width;
      const y = (p - x) / width;
      area++;
      if (x < x0) x0 = x;
      if (x > x1) x1 = x;
      if (y < y0) y0 = y;
      if (y > y1) y1 = y;
      for (let ny = y > 0 ? y - 1 : 0; ny <= y + 1 && ny < height; ny++)
        for (let i = ny * width + (x > 0 ? x - 1 : 0), end = ny * width + (x < width - 1 ? x + 1 : x); i <= end; i++)
          if (mask[i] && !seen[i]) {
            seen[i] = 1;
            stack.push(i);
          }
    }
    marks.push({ x0, y0, x1, y1, area });
  }
  return marks;
}

/** The places that hang together with one that is on, by their four sides; `seen` keeps what was taken, and what is to be left out. */
export function partFrom(on: ArrayLike<number>, seen: Uint8Array, width: number, height: number, start: number): number[] {
  const members = [start];
  seen[start] = 1;
  const take = (q: number) => {
    if (seen[q] || !on[q]) return;
    seen[q] = 1;
    members.push(q);
  };
  for (let k = 0; k < members.length; k++) {
    const p = members[k];
    const x = p % width;
    if (x > 0) take(p - 1);
    if (x < width - 1) take(p + 1);
    if (p >= width) take(p - width);
    if (p < width * (height - 1)) take(p + width);
  }
  return members;
}

/** The 4-connected parts of a mask of 0 and 1, each as the places of its pixels. */
export function connectedComponents(mask: Uint8Array, width: number, height: number): number[][] {
  const seen = new Uint8Array(mask.length);
  const parts: number[][] = [];
  for (let start = 0; start < mask.length; start++)
    if (mask[start] && !seen[start]) parts.push(partFrom(mask, seen, width, height, start));
  return parts;
}
