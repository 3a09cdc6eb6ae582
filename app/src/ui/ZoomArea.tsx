import { useRef, type ReactNode } from 'react';
import { TransformComponent, TransformWrapper, type ReactZoomPanPinchRef } from 'react-zoom-pan-pinch';
import { useKeys } from './useKeys';

export interface ZoomAreaProps {
  /** What lies in it, fitted into the area. */
  children: ReactNode;
  /** Width over height of what lies in it, and how many px wide it is at its own size. */
  ratio?: number;
  fullWidth?: number;
  /** How far it is zoomed, 1 fitted. */
  onScale?: (scale: number) => void;
  /** A finger went over it from side to side while it was fitted: 1 to what comes next. */
  onSwipe?: (by: 1 | -1) => void;
  /** Takes the keys + - 0 1 w h as well. */
  keys?: boolean;
}

const maxScale = 12;
const keyStep = 1.5;
/** A swipe goes so far across and less than half as far down, px. */
const swipePx = 56;

/** Something that is zoomed by wheel, pinch, double tap and keys, and panned by dragging. */
export function ZoomArea({ children, ratio, fullWidth, onScale, onSwipe, keys = false }: ZoomAreaProps) {
  const zoom = useRef<ReactZoomPanPinchRef>(null);
  const box = useRef<HTMLDivElement>(null);
  const from = useRef<{ x: number; y: number; id: number; many: boolean } | null>(null);
  /** To a scale that is worked out from how wide it is shown while fitted, and how wide the area is; about its middle. */
  const zoomTo = (scale: (shown: number, width: number, now: number) => number) => {
    const ref = zoom.current;
    if (!ref || !box.current) return;
    const { width, height } = box.current.getBoundingClientRect();
    const shown = ratio ? Math.min(width, height * ratio) : width;
    ref.centerView(Math.max(1, Math.min(maxScale, scale(shown, width, ref.state.scale))), 0);
  };
  useKeys(
    {
      '+': () => zoomTo((_shown, _width, now) => now * keyStep),
      '=': () => zoomTo((_shown, _width, now) => now * keyStep),
      '-': () => zoomTo((_shown, _width, now) => now / keyStep),
      0: () => zoomTo(() => 1),
      h: () => zoomTo(() => 1),
      w: () => zoomTo((shown, width) => width / shown),
      1: () => zoomTo((shown, _width, now) => (fullWidth ? fullWidth / devicePixelRatio / shown : now)),
    },
    { enabled: keys, over: true },
  );
  return (
    <div
      ref={box}
      style={{ width: '100%', height: '100%' }}
      onPointerDown={(event) => {
        if (from.current) from.current.many = true;
        else from.current = { x: event.clientX, y: event.clientY, id: event.pointerId, many: false };
      }}
      onPointerUp={(event) => {
        const began = from.current;
        if (began?.id !== event.pointerId) return;
        from.current = null;
        const [dx, dy] = [event.clientX - began.x, event.clientY - began.y];
        if (began.many || (zoom.current?.state.scale ?? 1) > 1.01 || Math.abs(dx) < swipePx || Math.abs(dy) > Math.abs(dx) / 2)
          return;
        onSwipe?.(dx < 0 ? 1 : -1);
      }}
      onPointerCancel={() => (from.current = null)}
    >
      <TransformWrapper
        ref={zoom}
        maxScale={maxScale}
        doubleClick={{ mode: 'toggle', step: 1.4 }}
        {...(onScale && { onTransform: (_ref: ReactZoomPanPinchRef, state: { scale: number }) => onScale(state.scale) })}
      >
        <TransformComponent wrapperStyle={{ width: '100%', height: '100%' }} contentStyle={{ width: '100%', height: '100%' }}>
          {children}
        </TransformComponent>
      </TransformWrapper>
    </div>
  );
}
