import { useEffect, useRef, useState, type PointerEvent } from 'react';
import { View } from 'react-native';
import { Text } from 'react-native-paper';
import { Action } from '../ui/Action';
import { Sheet } from '../ui/Sheet';
import { useTokens } from '../ui/theme';
import { useSay } from '../ui/words/words';
import { signatureOf, type Signature } from '../work/signature';

export interface SignatureSheetProps {
  kept: Signature | null;
  onKeep: (signature: Signature | null) => void;
  onClose: () => void;
}

const [width, height] = [520, 200];
/** As many as a stroke on a page may have. */
const mostPoints = 4000;

/** The signature that is put on pages: drawn once, kept on this device, deleted here. */
export function SignatureSheet({ kept, onKeep, onClose }: SignatureSheetProps) {
  const t = useTokens();
  const say = useSay();
  const [strokes, setStrokes] = useState<Signature['strokes']>([]);
  const paper = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const c = paper.current?.getContext('2d');
    if (!c) return;
    c.clearRect(0, 0, width, height);
    c.lineWidth = 3;
    c.lineCap = c.lineJoin = 'round';
    c.strokeStyle = t.ink;
    for (const stroke of strokes) {
      c.beginPath();
      stroke.forEach(([x, y], i) => (i ? c.lineTo(x, y) : c.moveTo(x, y)));
      c.stroke();
    }
  }, [strokes, t.ink]);
  const at = (event: PointerEvent<HTMLCanvasElement>): Signature['strokes'][number][number] => {
    const r = event.currentTarget.getBoundingClientRect();
    const [x, y] = [((event.clientX - r.left) / r.width) * width, ((event.clientY - r.top) / r.height) * height];
    return event.pointerType === 'pen' && event.pressure > 0 ? [x, y, Math.round(event.pressure * 1000) / 1000] : [x, y];
  };
  const drawn = signatureOf(strokes);
  return (
    <Sheet title={say('marks.signature.title')} maxWidth={600} onClose={onClose}>
      <Text style={{ color: t.pencil }}>{say('marks.signature.about')}</Text>
      <canvas
        ref={paper}
        data-testid="signature"
        width={width}
        height={height}
        role="img"
        aria-label={say('marks.signature.here')}
        onPointerDown={(event) => {
          if (!event.isPrimary) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          const point = at(event);
          setStrokes((before) => [...before, [point]]);
        }}
        onPointerMove={(event) => {
          if (!event.isPrimary || !event.buttons) return;
          const point = at(event);
          // Several may come before the sheet is drawn anew.
          setStrokes((before) =>
            before.length ? [...before.slice(0, -1), [...before.at(-1)!, point].slice(0, mostPoints)] : before,
          );
        }}
        style={{
          width: '100%',
          aspectRatio: `${width} / ${height}`,
          touchAction: 'none',
          border: `1px dashed ${t.hairline}`,
          borderRadius: 4,
          background: t.leaf,
        }}
      />
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
        <Action main disabled={!drawn} onPress={() => onKeep(drawn)}>
          {say('marks.signature.keep')}
        </Action>
        <Action disabled={!strokes.length} onPress={() => setStrokes([])}>
          {say('common.clear')}
        </Action>
        {kept ? (
          <Action icon="delete-outline" onPress={() => onKeep(null)}>
            {say('marks.signature.remove')}
          </Action>
        ) : null}
        <Action onPress={onClose}>{say('common.cancel')}</Action>
      </View>
    </Sheet>
  );
}
