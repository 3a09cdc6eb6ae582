import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { memo } from 'react';
import { Image, View } from 'react-native';
import { Text } from 'react-native-paper';
import type { Page } from '@libretto/model';
import { IconAction } from '../ui/IconAction';
import { Round } from '../ui/Round';
import { Sign } from '../ui/Sign';
import { Spinner } from '../ui/Spinner';
import { useTokens } from '../ui/theme';
import { checkInWords, problemAlone } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { usePageImage } from '../work/usePageImage';

export interface PageLeafProps {
  page: Page;
  folio: number;
  total: number;
  width: number;
  selected: boolean;
  /** Whether it is chosen, while pages are being chosen. */
  chosen?: boolean;
  /** Number of the page that its worst check names. */
  other: number | null;
  /** Pressed, with the keys that were held. */
  onPress: (page: Page, keys: { shift: boolean; mod: boolean }) => void;
  onMenu: (page: Page, at: { x: number; y: number }) => void;
}

/** One page on the proof sheet: opens on a tap, moves by drag or, with Space and arrows, by keyboard. */
export const PageLeaf = memo(Leaf, (a, b) =>
  (['page', 'folio', 'total', 'width', 'selected', 'chosen', 'other'] as const).every((key) => a[key] === b[key]),
);

function Leaf({ page, folio, total, width, selected, chosen, other, onPress, onMenu }: PageLeafProps) {
  const t = useTokens();
  const say = useSay();
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: page.id });
  const { url, current, image, problem } = usePageImage(page, 'sheet');
  const ratio = image ? image.width / image.height : page.made ? page.made.widthMm / page.made.heightMm : 0.707;
  const inner = width - 24;
  const [w, h] =
    ratio > 0.8 ? [inner, inner / ratio] : [Math.min(inner, inner * 1.36 * ratio), Math.min(inner * 1.36, inner / ratio)];
  const worst = page.checks[0];
  const failed = page.state === 'failed' ? (page.problem ?? { code: 'not-read' }) : problem;
  const doubt = failed
    ? { words: problemAlone(say, failed), severity: 'retake' as const }
    : worst && { words: checkInWords(say, worst, other), severity: worst.severity };
  const colour = doubt ? (doubt.severity === 'retake' ? t.rust : doubt.severity === 'look' ? t.brass : t.pencil) : t.pencil;
  const label = doubt ? say('document.leafDoubt', { folio, total, doubt: doubt.words }) : say('document.leaf', { folio, total });
  return (
    <div
      ref={setNodeRef}
      style={{
        position: 'relative',
        transform: CSS.Transform.toString(transform),
        transition,
        width,
        zIndex: isDragging ? 2 : 0,
        opacity: isDragging ? 0.85 : 1,
      }}
    >
      <div
        {...attributes}
        {...listeners}
        aria-label={label}
        {...(selected && { 'aria-current': true })}
        data-testid="leaf"
        data-page={page.id}
        {...(chosen !== undefined && { role: 'checkbox', 'aria-checked': chosen, 'aria-roledescription': undefined })}
        onClick={(event) => onPress(page, { shift: event.shiftKey, mod: event.ctrlKey || event.metaKey })}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && !isDragging) {
            event.preventDefault();
            onPress(page, { shift: event.shiftKey, mod: event.ctrlKey || event.metaKey });
          } else listeners?.onKeyDown?.(event);
        }}
        onContextMenu={(event) => {
          event.preventDefault();
          // A finger that holds is choosing or lifting.
          if (!isDragging) onMenu(page, { x: event.clientX, y: event.clientY });
        }}
        style={{
          touchAction: 'manipulation',
          cursor: 'grab',
          WebkitTouchCallout: 'none',
          userSelect: 'none',
        }}
      >
        <View style={{ alignItems: 'center', gap: 4, paddingTop: 8 }}>
          <View
            style={{
              width: w,
              height: h,
              backgroundColor: t.leaf,
              borderWidth: 1,
              borderColor: selected || chosen ? t.wine : t.hairline,
              outlineWidth: selected || chosen ? 2 : 0,
              outlineStyle: 'solid',
              outlineColor: t.wine,
            }}
          >
            {url ? (
              <Image
                source={{ uri: url }}
                style={{ width: '100%', height: '100%', opacity: current ? 1 : 0.6 }}
                accessibilityLabel=""
              />
            ) : null}
            {!url && !failed ? (
              <View style={{ flex: 1, alignItems: 'center', justifyContent: 'center', gap: 10 }}>
                <Spinner size={22} />
                <Text variant="bodySmall" style={{ color: t.pencil }}>
                  {page.state === 'looking' ? say('document.finding') : say('document.finishing')}
                </Text>
              </View>
            ) : null}
            {failed ? (
              <View style={{ flex: 1, alignItems: 'center', justifyContent: 'center', padding: 10 }}>
                <Sign source="image-broken-variant" size={30} color={t.rust} />
              </View>
            ) : null}
            {chosen !== undefined ? <Round on={chosen} left={-10} top={-6} size={32} /> : null}
          </View>
          <View
            style={{
              flexDirection: 'row',
              alignItems: 'center',
              justifyContent: 'center',
              gap: 5,
              minHeight: 44,
              width: '100%',
              // Words need the room that a folio in the middle does not.
              paddingLeft: doubt ? 10 : 44,
              paddingRight: 44,
            }}
          >
            {doubt ? <Sign source="alert-circle-outline" size={17} color={colour} /> : null}
            <Text variant={doubt ? 'labelMedium' : 'titleSmall'} style={{ color: colour }}>
              {folio}
            </Text>
            {doubt ? (
              <Text variant="bodyMedium" style={{ color: colour, flexShrink: 1 }}>
                {doubt.words}
              </Text>
            ) : null}
          </View>
        </View>
      </div>
      {/* Beside the leaf rather than in it: a control within a control cannot be reached. */}
      <div style={{ position: 'absolute', right: 0, bottom: 0 }}>
        <IconAction
          icon="dots-horizontal"
          size={20}
          iconColor={t.pencil}
          label={say('document.moreForPage', { folio })}
          aria-haspopup="menu"
          onPress={(event) => onMenu(page, { x: event.nativeEvent.pageX, y: event.nativeEvent.pageY })}
        />
      </div>
    </div>
  );
}
