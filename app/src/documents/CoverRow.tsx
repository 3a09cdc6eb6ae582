import { memo } from 'react';
import { Image, View } from 'react-native';
import { Text } from 'react-native-paper';
import type { Summary } from '@libretto/model';
import { MoreMenu } from '../ui/MoreMenu';
import { Round } from '../ui/Round';
import { useTokens } from '../ui/theme';
import { fateInWords } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { useThumb } from '../work/usePageImage';
import { DocumentLink, draggable } from './DocumentLink';
import { entriesOf, fateTones, type DocumentActions } from './DocumentRow';

export interface CoverRowProps {
  summaries: readonly Summary[];
  /** How many there is room for. */
  columns: number;
  selected: string | undefined;
  /** Whether each is chosen, while documents are being chosen. */
  chosen?: (id: string) => boolean;
  actions: DocumentActions;
}

/** Documents beside each other by their first pages. */
export function CoverRow({ summaries, columns, selected, chosen, actions }: CoverRowProps) {
  return (
    <View style={{ flexDirection: 'row', gap: 12, paddingHorizontal: 16, paddingVertical: 8 }}>
      {Array.from({ length: columns }, (_, i) => {
        const summary = summaries[i];
        return summary ? (
          <Cover
            key={summary.id}
            summary={summary}
            selected={summary.id === selected}
            {...(chosen && { chosen: chosen(summary.id) })}
            actions={actions}
          />
        ) : (
          <View key={i} style={{ flex: 1 }} />
        );
      })}
    </View>
  );
}

interface CoverProps {
  summary: Summary;
  selected: boolean;
  chosen?: boolean;
  actions: DocumentActions;
}

const Cover = memo(function Cover({ summary, selected, chosen, actions }: CoverProps) {
  const t = useTokens();
  const say = useSay();
  const fate = fateInWords(say, summary.fate, new Date());
  const thumb = useThumb(summary.first ?? undefined);
  return (
    <div {...draggable(summary.id)} style={{ flex: 1, minWidth: 0, position: 'relative' }}>
      <DocumentLink
        summary={summary}
        testID="document-cover"
        selected={selected}
        chosen={chosen}
        actions={actions}
        style={{ gap: 4 }}
      >
        <View
          aria-hidden
          style={{
            aspectRatio: 0.76,
            alignItems: 'center',
            justifyContent: 'center',
            padding: 6,
            backgroundColor: selected || chosen ? t.brassWash : t.well,
            borderWidth: selected || chosen ? 2 : 1,
            borderColor: selected || chosen ? t.wine : t.hairline,
          }}
        >
          {thumb?.url ? (
            <Image
              source={{ uri: thumb.url }}
              resizeMode="contain"
              style={{ width: '100%', height: '100%' }}
              accessibilityLabel=""
            />
          ) : null}
          {chosen !== undefined ? <Round on={chosen} left={4} top={4} size={28} /> : null}
        </View>
        <Text variant="labelLarge" numberOfLines={2}>
          {summary.name}
        </Text>
        <View style={{ flexDirection: 'row', gap: 6 }}>
          <View style={{ width: 8, height: 8, marginTop: 6, borderRadius: 4, backgroundColor: t[fateTones[fate.tone]] }} />
          <Text variant="bodySmall" numberOfLines={2} style={{ color: t[fateTones[fate.tone]], flex: 1 }}>
            {summary.newer ? say('shelf.newer') : fate.words}
          </Text>
        </View>
      </DocumentLink>
      <div style={{ position: 'absolute', right: 2, top: 2, background: t.leaf, borderRadius: 24, opacity: 0.92 }}>
        <MoreMenu label={say('shelf.moreFor', { name: summary.name })} entries={entriesOf(say, summary, actions)} />
      </div>
    </div>
  );
});
