import { memo, useEffect, useRef } from 'react';
import { Image, Pressable, View } from 'react-native';
import { Text } from 'react-native-paper';
import { lookOf, type Page } from '@libretto/model';
import { Spinner } from '../ui/Spinner';
import { darkTokens as t } from '../ui/tokens';
import { VirtualList } from '../ui/VirtualList';
import { checkInWords } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { useThumb } from '../work/usePageImage';
import type { Shot } from './CaptureRun';

export interface TrayProps {
  pages: readonly Page[];
  shots: readonly Shot[];
  glimpses: ReadonlyMap<string, HTMLCanvasElement>;
  /** The page that is being taken anew. */
  retaking: string | null;
  /** Several rows, where there is room. */
  many: boolean;
  onOpen: (page: Page) => void;
}

type Leaf = { kind: 'shot'; shot: Shot; folio: number } | { kind: 'page'; page: Page; folio: number };

const high = 92;
const columns = 3;

/** The pages of the run, newest first, each with its number and, once known, its check; before them what is being saved. */
export function Tray({ pages, shots, glimpses, retaking, many, onOpen }: TrayProps) {
  const say = useSay();
  const leaves: Leaf[] = [
    ...shots.filter((s) => !s.insteadOf).map((shot, i): Leaf => ({ kind: 'shot', shot, folio: pages.length + i + 1 })).reverse(), // prettier-ignore
    ...pages
      .map((page, i): Leaf => {
        const again = shots.find((s) => s.insteadOf === page.id);
        return again ? { kind: 'shot', shot: again, folio: i + 1 } : { kind: 'page', page, folio: i + 1 };
      })
      .reverse(),
  ];
  const keyOf = (leaf: Leaf) => (leaf.kind === 'shot' ? `shot-${leaf.shot.key}` : leaf.page.id);
  const draw = (leaf: Leaf) =>
    leaf.kind === 'shot' ? (
      <ShotLeaf key={keyOf(leaf)} shot={leaf.shot} folio={leaf.folio} />
    ) : (
      <TrayLeaf
        key={keyOf(leaf)}
        page={leaf.page}
        folio={leaf.folio}
        other={leaf.page.checks[0]?.pageId ? pages.findIndex((p) => p.id === leaf.page.checks[0]!.pageId) + 1 || null : null}
        glimpse={glimpses.get(leaf.page.id)}
        marked={leaf.page.id === retaking}
        onOpen={onOpen}
      />
    );
  if (many)
    return (
      <VirtualList
        testID="tray"
        label={say('capture.taken')}
        style={{ flex: 1, minHeight: 0 }}
        count={Math.ceil(leaves.length / columns)}
        keyOf={(row) => keyOf(leaves[row * columns]!)}
        sizeOf={() => high + 34}
        paddingStart={12}
        paddingEnd={12}
        render={(row) => (
          <View style={{ flexDirection: 'row', alignItems: 'flex-end', gap: 10, paddingHorizontal: 14 }}>
            {leaves.slice(row * columns, (row + 1) * columns).map(draw)}
          </View>
        )}
      />
    );
  return (
    <VirtualList
      horizontal
      testID="tray"
      label={say('capture.taken')}
      style={{ height: 128, flexShrink: 0 }}
      count={leaves.length}
      keyOf={(i) => keyOf(leaves[i]!)}
      sizeOf={() => 70}
      overscan={10}
      gap={10}
      paddingStart={14}
      paddingEnd={14}
      render={(i) => draw(leaves[i]!)}
    />
  );
}

/** A page that is not saved yet. */
function ShotLeaf({ shot, folio }: { shot: Shot; folio: number }) {
  const say = useSay();
  return (
    <View
      role="status"
      aria-label={say('capture.savingLabel', { folio })}
      testID="tray-shot"
      style={{ alignItems: 'center', gap: 4 }}
    >
      <View style={{ opacity: 0.7 }}>
        <Glimpse canvas={shot.glimpse} />
      </View>
      <Text variant="bodySmall" style={{ color: t.pencil, minHeight: 20 }}>
        {shot.saved ? folio : say('capture.saving', { folio })}
      </Text>
    </View>
  );
}

interface TrayLeafProps {
  page: Page;
  folio: number;
  other: number | null;
  glimpse: HTMLCanvasElement | undefined;
  marked: boolean;
  onOpen: (page: Page) => void;
}

const TrayLeaf = memo(
  function TrayLeaf({ page, folio, other, glimpse, marked, onOpen }: TrayLeafProps) {
    const say = useSay();
    const thumb = useThumb(page.state === 'ready' ? { pageId: page.id, look: lookOf(page) } : undefined, page);
    const ratio = thumb ? thumb.width / thumb.height : 0.7;
    const check =
      page.state === 'failed' ? say('check.notRead') : page.checks[0] ? checkInWords(say, page.checks[0], other) : undefined;
    const [w, h] = ratio > 0.9 ? [88, 88 / ratio] : [high * ratio, high];
    return (
      <Pressable
        role="button"
        testID="tray-leaf"
        {...({ dataSet: { page: page.id } } as object)}
        aria-label={check ? say('capture.pageCheck', { folio, check }) : say('capture.page', { folio })}
        onPress={() => onOpen(page)}
        style={{ alignItems: 'center', gap: 4, maxWidth: 96, minWidth: 44 }}
      >
        {thumb?.url ? (
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
            <Image source={{ uri: thumb.url }} style={{ width: '100%', height: '100%' }} accessibilityLabel="" />
          </View>
        ) : (
          <Glimpse canvas={glimpse ?? null} />
        )}
        <Text variant="bodySmall" numberOfLines={1} style={{ color: check ? t.brass : t.pencil, minHeight: 20 }}>
          {check ? say('capture.folioCheck', { folio, check }) : folio}
        </Text>
      </Pressable>
    );
  },
  (a, b) => (['page', 'folio', 'other', 'glimpse', 'marked'] as const).every((key) => a[key] === b[key]),
);

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
        <Spinner size={18} />
      </div>
    </div>
  );
}
