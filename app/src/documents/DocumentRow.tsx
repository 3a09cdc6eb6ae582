import { Link } from 'expo-router';
import { memo } from 'react';
import { Image, Pressable, View } from 'react-native';
import { Text } from 'react-native-paper';
import type { Summary } from '@libretto/model';
import { deleteDocument } from '../store/editing';
import { useAppDispatch } from '../store/store';
import { MoreMenu } from '../ui/MoreMenu';
import { useTokens } from '../ui/theme';
import { fateInWords, sizesInWords } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { useThumb } from '../work/usePageImage';

const tones = { plain: 'pencil', attention: 'brass', good: 'moss', failed: 'rust' } as const;

/** A document on the shelf: its first page, name, size and what became of it. Drawn anew only when its summary changes. */
export const DocumentRow = memo(function DocumentRow({ summary, selected }: { summary: Summary; selected: boolean }) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const fate = fateInWords(say, summary.fate, new Date());
  const thumb = useThumb(summary.first ?? undefined);
  const ratio = thumb ? thumb.width / thumb.height : 0.7;
  const [w, h] = ratio > 0.9 ? [66, Math.max(36, 66 / ratio)] : [Math.max(26, 72 * ratio), 72];
  const about = [say('pages', { count: summary.pages }), sizesInWords(say, summary.sizes)]
    .filter(Boolean)
    .join(say('common.dot'));
  return (
    <View
      style={{
        flexDirection: 'row',
        borderBottomWidth: 1,
        borderColor: t.hairline,
        backgroundColor: selected ? t.well : undefined,
      }}
    >
      <Link href={`/document/${summary.id}`} asChild>
        <Pressable
          testID="document-row"
          aria-current={selected ? 'true' : undefined}
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
          </View>
          <View style={{ flex: 1, gap: 2 }}>
            <Text variant="titleMedium">{summary.name}</Text>
            <Text variant="bodySmall" style={{ color: t.pencil }}>
              {about}
            </Text>
            <View style={{ flexDirection: 'row', alignItems: 'center', gap: 6 }}>
              <View style={{ width: 8, height: 8, borderRadius: 4, backgroundColor: t[tones[fate.tone]] }} />
              <Text variant="bodySmall" style={{ color: t[tones[fate.tone]], flex: 1 }}>
                {summary.newer ? say('shelf.newer') : fate.words}
              </Text>
            </View>
          </View>
        </Pressable>
      </Link>
      <View style={{ justifyContent: 'flex-start', paddingTop: 8 }}>
        <MoreMenu
          label={say('shelf.moreFor', { name: summary.name })}
          entries={[{ icon: 'delete-outline', title: say('shelf.bin'), onPress: () => void dispatch(deleteDocument(summary)) }]}
        />
      </View>
    </View>
  );
});
