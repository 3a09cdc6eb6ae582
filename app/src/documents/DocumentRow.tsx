import { memo } from 'react';
import { Image, View } from 'react-native';
import { Text } from 'react-native-paper';
import type { Summary } from '@libretto/model';
import { MoreMenu, type MenuEntry } from '../ui/MoreMenu';
import { useTokens } from '../ui/theme';
import { fateInWords, sizesInWords } from '../ui/words/format';
import { useSay, type Say } from '../ui/words/words';
import { Round } from '../ui/Round';
import type { TextHit } from '../work/searching';
import { useThumb } from '../work/usePageImage';
import { DocumentLink, draggable } from './DocumentLink';

/** The colour of what became of a document. */
export const fateTones = { plain: 'pencil', attention: 'brass', good: 'moss', failed: 'rust' } as const;

/** What can be done with a document from its row; the same object as long as the shelf stands. */
export interface DocumentActions {
  ask: (what: 'file' | 'tags' | 'backup', summary: Summary) => void;
  bin: (summary: Summary) => void;
  /** Chosen or not; with `reach`, all from the one that was chosen last. */
  toggle: (id: string, reach: boolean) => void;
}

/** The menu of a document on the shelf. */
export const entriesOf = (say: Say, summary: Summary, actions: DocumentActions): MenuEntry[] => [
  { icon: 'checkbox-multiple-outline', title: say('select.this'), onPress: () => actions.toggle(summary.id, false) },
  { icon: 'folder-outline', title: say('folder.file'), onPress: () => actions.ask('file', summary) },
  { icon: 'tag-outline', title: say('tags.title'), onPress: () => actions.ask('tags', summary) },
  { icon: 'cellphone-arrow-down', title: say('shelf.backup'), onPress: () => actions.ask('backup', summary) },
  { icon: 'delete-outline', title: say('shelf.bin'), onPress: () => actions.bin(summary) },
];

export interface DocumentRowProps {
  summary: Summary;
  selected: boolean;
  /** Whether it is chosen, while documents are being chosen. */
  chosen?: boolean;
  /** Where what is looked for stands on its pages. */
  hit?: TextHit | undefined;
  actions: DocumentActions;
}

/** A document on the shelf: its first page, name, size and what became of it. Drawn anew only when its summary changes. */
export const DocumentRow = memo(function DocumentRow({ summary, selected, chosen, hit, actions }: DocumentRowProps) {
  const t = useTokens();
  const say = useSay();
  const fate = fateInWords(say, summary.fate, new Date());
  const thumb = useThumb(summary.first ?? undefined);
  const ratio = thumb ? thumb.width / thumb.height : 0.7;
  const [w, h] = ratio > 0.9 ? [66, Math.max(36, 66 / ratio)] : [Math.max(26, 72 * ratio), 72];
  const about = [say('pages', { count: summary.pages }), sizesInWords(say, summary.sizes)]
    .filter(Boolean)
    .join(say('common.dot'));
  return (
    <div
      {...draggable(summary.id)}
      style={{
        display: 'flex',
        borderBottom: `1px solid ${t.hairline}`,
        background: selected || chosen ? t.well : undefined,
      }}
    >
      <DocumentLink
        summary={summary}
        testID="document-row"
        selected={selected}
        chosen={chosen}
        hit={hit}
        actions={actions}
        style={{ flex: 1, flexDirection: 'row', gap: 14, paddingVertical: 14, paddingLeft: 16 }}
      >
        <View aria-hidden style={{ width: 70, alignItems: 'center', justifyContent: 'center' }}>
          {summary.pages > 1
            ? [6, 3].map((o) => (
                <View
                  key={o}
                  style={{
                    position: 'absolute',
                    width: w,
                    height: h,
                    backgroundColor: t.leaf,
                    borderWidth: 1,
                    borderColor: t.hairline,
                    transform: [{ translateX: o }, { translateY: o }],
                  }}
                />
              ))
            : null}
          <View style={{ width: w, height: h, backgroundColor: t.leaf, borderWidth: 1, borderColor: t.hairline }}>
            {thumb?.url ? (
              <Image source={{ uri: thumb.url }} style={{ width: '100%', height: '100%' }} accessibilityLabel="" />
            ) : null}
          </View>
          {chosen !== undefined ? <Round on={chosen} left={0} top={0} size={28} /> : null}
        </View>
        <View style={{ flex: 1, gap: 2 }}>
          <Text variant="titleMedium">{summary.name}</Text>
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            {summary.tags ? [about, ...summary.tags].join(say('common.dot')) : about}
          </Text>
          {hit?.line ? (
            <Text
              variant="bodySmall"
              numberOfLines={2}
              style={{ color: t.ink, borderLeftWidth: 2, borderColor: t.brass, paddingLeft: 8 }}
            >
              {hit.line}
            </Text>
          ) : null}
          <View style={{ flexDirection: 'row', alignItems: 'center', gap: 6 }}>
            <View style={{ width: 8, height: 8, borderRadius: 4, backgroundColor: t[fateTones[fate.tone]] }} />
            <Text variant="bodySmall" style={{ color: t[fateTones[fate.tone]], flex: 1 }}>
              {summary.newer ? say('shelf.newer') : fate.words}
            </Text>
          </View>
        </View>
      </DocumentLink>
      <View style={{ justifyContent: 'flex-start', paddingTop: 8 }}>
        <MoreMenu label={say('shelf.moreFor', { name: summary.name })} entries={entriesOf(say, summary, actions)} />
      </View>
    </div>
  );
});
