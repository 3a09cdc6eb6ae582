import { useState, type KeyboardEvent } from 'react';
import { useSay } from '../ui/words/words';

export type Spot = readonly [number, number];

export interface BrushOptions {
  /** Whether strokes are painted now. */
  on: boolean;
  /** The page as it is shown, px. */
  width: number;
  height: number;
  /** A stroke is done; points in shares of the page as shown. */
  onStroke: (points: readonly Spot[]) => void;
  /** Escape while no stroke is begun. */
  onLeave: () => void;
}

/** Points nearer than this, px, are one; a stroke has at most so many. */
const stepPx = 3;
const mostPoints = 400;
/** Way of one press of an arrow key, px; with Shift five times that. */
const keyPx = 8;
const ways: Record<string, Spot> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** A brush over a page, led by a pointer or by keys: arrows move it, Space begins and ends a stroke, Escape drops it. */
export function useBrush({ on, width, height, onStroke, onLeave }: BrushOptions) {
  const say = useSay();
  const [stroke, setStroke] = useState<readonly Spot[] | null>(null);
  const [at, setAt] = useState<Spot>([0.5, 0.5]);
  /** Shown while keys lead it: a pointer shows itself. */
  const [byKeys, setByKeys] = useState(false);
  const goTo = (next: Spot, drawn = stroke) => {
    setAt(next);
    const last = drawn?.at(-1);
    if (!last || !drawn || drawn.length >= mostPoints) return;
    if (Math.hypot((next[0] - last[0]) * width, (next[1] - last[1]) * height) >= stepPx) setStroke([...drawn, next]);
  };
  const begin = (from: Spot) => {
    setByKeys(false);
    setAt(from);
    setStroke([from]);
  };
  const end = () => {
    if (stroke) onStroke(stroke);
    setStroke(null);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (!on) return;
    const way = ways[event.key];
    if (way) {
      const px = keyPx * (event.shiftKey ? 5 : 1);
      const within = (v: number) => Math.max(0, Math.min(1, v));
      setByKeys(true);
      goTo([within(at[0] + (way[0] * px) / Math.max(1, width)), within(at[1] + (way[1] * px) / Math.max(1, height))]);
    } else if (event.key === ' ' || event.key === 'Enter') {
      if (stroke) end();
      else {
        setByKeys(true);
        setStroke([at]);
      }
    } else if (event.key === 'Escape') {
      if (stroke) setStroke(null);
      else onLeave();
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const percent = (v: number) => Math.round(v * 100);
  const label = say('finish.brush', {
    state: say(stroke ? 'finish.brushPainting' : 'finish.brushLifted'),
    x: percent(at[0]),
    y: percent(at[1]),
  });
  return { stroke, at, shown: on && byKeys, label, begin, goTo, end, drop: () => setStroke(null), onKeyDown };
}
