import { useEffect, useRef } from 'react';
import { Image, Pressable, ScrollView, View } from 'react-native';
import { ActivityIndicator, Text } from 'react-native-paper';
import type { Page } from '@libretto/model';
import { usePageImage } from '../../components/usePageImage';
import { darkTokens as t } from '../../theme/tokens';
import type { Run, Shot } from './useRun';

export interface TrayProps {
  pages: readonly Page[];
  shots: readonly Shot[];
  glimpses: Run['glimpses'];
  /** The page that is being taken anew. */
  retaking: string | null;
  /** Several rows, where there is room. */
  many: boolean;
  onOpen: (page: Page) => void;
}

/** The pages of the run, newest first, each with its number and, once known, its check; before them what is being stored. */
export function Tray({ pages, shots, glimpses, retaking, many, onOpen }: TrayProps) {
  const leaves = [
    ...shots
      .filter((s) => !s.insteadOf)
      .map((shot, i) => <ShotLeaf key={`shot-${shot.key}`} shot={shot} folio={pages.length + i + 1} />)
      .reverse(),
    ...pages
      .map((page, i) => {
        const again = shots.find((s) => s.insteadOf?.id === page.id);
        if (again) return <ShotLeaf key={`shot-${again.key}`} shot={again} folio={i + 1} />;
        return (
          <TrayLeaf
            key={page.id}
            page={page}
            folio={i + 1}
            glimpse={glimpses.get(page.id)}
            marked={page.id === retaking}
            onOpen={onOpen}
          />
        );
      })
      .reverse(),
  ];
  return (
    <ScrollView
      horizontal={!many}
      style={many ? { flex: 1 } : { flexGrow: 0, minHeight: 128 }}
      contentContainerStyle={{
        flexDirection: 'row',
        flexWrap: many ? 'wrap' : 'nowrap',
        gap: 10,
        paddingHorizontal: 14,
        paddingVertical: many ? 12 : 0,
        alignItems: many ? 'flex-start' : 'flex-end',
      }}
    >
      {leaves}
    </ScrollView>
  );
}

const high = 92;

/** A page that is not safe yet. */
function ShotLeaf({ shot, folio }: { shot: Shot; folio: number }) {
  return (
    <View role="status" aria-label="Storing" testID="tray-shot" style={{ alignItems: 'center', gap: 4 }}>
      <View style={{ opacity: 0.7 }}>
        <Glimpse canvas={shot.glimpse} />
      </View>
      <Text variant="bodySmall" style={{ color: t.pencil, minHeight: 20 }}>
        {folio} · storing
      </Text>
    </View>
  );
}

function TrayLeaf({
  page,
  folio,
  glimpse,
  marked,
  onOpen,
}: {
  page: Page;
  folio: number;
  glimpse: HTMLCanvasElement | undefined;
  marked: boolean;
  onOpen: (page: Page) => void;
}) {
  const { url, image } = usePageImage(page, 'screen');
  const ratio = image ? image.width / image.height : 0.7;
  const check = page.state === 'failed' ? 'Not read' : page.checks[0]?.words;
  const [w, h] = ratio > 0.9 ? [88, 88 / ratio] : [high * ratio, high];
  return (
    <Pressable
      role="button"
      testID="tray-leaf"
      aria-label={`Page ${folio}${check ? `, ${check}` : ''}`}
      onPress={() => onOpen(page)}
      style={{ alignItems: 'center', gap: 4, maxWidth: 96 }}
    >
      {url ? (
        <View
          style={{
            width: Math.max(30, w),
            height: Math.max(30, h),
            backgroundColor: '#FFFDF8',
            outlineWidth: marked ? 3 : 0,
            outlineColor: t.brass,
            outlineStyle: 'dashed',
          }}
        >
          <Image source={{ uri: url }} style={{ width: '100%', height: '100%' }} accessibilityLabel="" />
        </View>
      ) : (
        <Glimpse canvas={glimpse ?? null} />
      )}
      <Text variant="bodySmall" numberOfLines={1} style={{ color: check ? t.brass : t.pencil, minHeight: 20 }}>
        {check ? `${folio} · ${check}` : folio}
      </Text>
    </Pressable>
  );
}

/** What the camera showed, until the finished page is there. */
function Glimpse({ canvas }: { canvas: HTMLCanvasElement | null }) {
  const copy = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (canvas) copy.current?.getContext('2d')?.drawImage(canvas, 0, 0);
  }, [canvas]);
  const scale = canvas ? Math.min(high / canvas.height, 96 / canvas.width) : 0;
  return (
    <div style={{ position: 'relative', minWidth: 30, minHeight: canvas ? 30 : high, background: t.leaf }}>
      {canvas ? (
        <canvas
          ref={copy}
          width={canvas.width}
          height={canvas.height}
          style={{ display: 'block', width: canvas.width * scale, height: canvas.height * scale }}
        />
      ) : null}
      <div style={{ position: 'absolute', inset: 0, display: 'flex', alignItems: 'center', justifyContent: 'center' }}>
        <ActivityIndicator size={18} />
      </div>
    </div>
  );
}
