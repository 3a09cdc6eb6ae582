import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { Image, View } from 'react-native';
import { ActivityIndicator, Icon, IconButton, Text } from 'react-native-paper';
import type { Page } from '@libretto/model';
import { usePageImage } from '../../components/usePageImage';
import { useTokens } from '../../theme/theme';

export interface PageLeafProps {
  page: Page;
  folio: number;
  total: number;
  width: number;
  selected: boolean;
  onOpen: () => void;
  onMenu: (at: { x: number; y: number }) => void;
}

/** One page on the proof sheet: opens on a tap, moves by drag or, with Space and arrows, by keyboard. */
export function PageLeaf({ page, folio, total, width, selected, onOpen, onMenu }: PageLeafProps) {
  const t = useTokens();
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: page.id });
  const { url, current, image, problem } = usePageImage(page, 'screen');
  const ratio = image ? image.width / image.height : 0.707;
  const inner = width - 24;
  const [w, h] =
    ratio > 0.8 ? [inner, inner / ratio] : [Math.min(inner, inner * 1.36 * ratio), Math.min(inner * 1.36, inner / ratio)];
  const doubt =
    page.state === 'failed' ? { words: page.problem ?? 'Could not be read', severity: 'retake' as const } : page.checks[0];
  const colour = doubt ? (doubt.severity === 'retake' ? t.rust : doubt.severity === 'look' ? t.brass : t.pencil) : t.pencil;
  const label = `Page ${folio} of ${total}${doubt ? `, ${doubt.words}` : ''}`;
  return (
    <div
      ref={setNodeRef}
      {...attributes}
      {...listeners}
      aria-label={label}
      data-testid="leaf"
      data-page={page.id}
      onClick={onOpen}
      onKeyDown={(event) => {
        if (event.key === 'Enter' && !isDragging) {
          event.preventDefault();
          onOpen();
        } else listeners?.onKeyDown?.(event);
      }}
      onContextMenu={(event) => {
        event.preventDefault();
        onMenu({ x: event.clientX, y: event.clientY });
      }}
      style={{
        transform: CSS.Transform.toString(transform),
        transition,
        width,
        zIndex: isDragging ? 2 : 0,
        opacity: isDragging ? 0.85 : 1,
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
            borderColor: selected ? t.wine : t.hairline,
            outlineWidth: selected ? 2 : 0,
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
          {!url && !problem && page.state !== 'failed' ? (
            <View style={{ flex: 1, alignItems: 'center', justifyContent: 'center', gap: 10 }}>
              <ActivityIndicator size={22} />
              <Text variant="bodySmall" style={{ color: t.pencil }}>
                {page.state === 'looking' ? 'Finding edges' : 'Finishing'}
              </Text>
            </View>
          ) : null}
          {problem || page.state === 'failed' ? (
            <View style={{ flex: 1, alignItems: 'center', justifyContent: 'center', padding: 10 }}>
              <Icon source="image-broken-variant" size={30} color={t.rust} />
            </View>
          ) : null}
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
          {doubt ? <Icon source="alert-circle-outline" size={17} color={colour} /> : null}
          <Text variant={doubt ? 'labelMedium' : 'titleSmall'} style={{ color: colour }}>
            {folio}
          </Text>
          {doubt ? (
            <Text variant="bodyMedium" style={{ color: colour, flexShrink: 1 }}>
              {problem ?? doubt.words}
            </Text>
          ) : null}
          <div
            style={{ position: 'absolute', right: 0 }}
            onClick={(event) => event.stopPropagation()}
            onKeyDown={(event) => event.stopPropagation()}
          >
            <IconButton
              icon="dots-horizontal"
              size={20}
              iconColor={t.pencil}
              accessibilityLabel={`More for page ${folio}`}
              style={{ margin: 0, width: 44, height: 44 }}
              onPress={(event) => onMenu({ x: event.nativeEvent.pageX, y: event.nativeEvent.pageY })}
            />
          </div>
        </View>
      </View>
    </div>
  );
}
