import { Link } from 'expo-router';
import { Image, Pressable, View } from 'react-native';
import { Text } from 'react-native-paper';
import type { Document } from '@libretto/model';
import { MoreMenu } from '../../components/MoreMenu';
import { usePageImage } from '../../components/usePageImage';
import { deleteDocument, pagesOf } from '../../state/editing';
import { useApp, useAppDispatch } from '../../state/store';
import { useTokens } from '../../theme/theme';
import { fateOf, pagesInWords, sizesInWords } from './words';

const tones = { plain: 'pencil', attention: 'brass', good: 'moss', failed: 'rust' } as const;

/** A document on the shelf: its first page, name, size and what became of it. */
export function DocumentRow({ document, selected }: { document: Document; selected: boolean }) {
  const t = useTokens();
  const dispatch = useAppDispatch();
  const library = useApp((s) => s.library);
  const pages = pagesOf({ library } as never, document);
  const deliveries = Object.values(library.delivery).filter((d) => d.documentId === document.id);
  const fate = fateOf(document, pages, deliveries, new Date());
  const { url, image } = usePageImage(pages[0], 'screen');
  const ratio = image ? image.width / image.height : 0.7;
  const [w, h] = ratio > 0.9 ? [66, Math.max(36, 66 / ratio)] : [Math.max(26, 72 * ratio), 72];
  const about = [pagesInWords(pages.length), sizesInWords(pages)].filter(Boolean).join(' · ');
  return (
    <View
      style={{
        flexDirection: 'row',
        borderBottomWidth: 1,
        borderColor: t.hairline,
        backgroundColor: selected ? t.well : undefined,
      }}
    >
      <Link href={`/document/${document.id}`} asChild>
        <Pressable style={{ flex: 1, flexDirection: 'row', gap: 14, paddingVertical: 14, paddingLeft: 16 }}>
          <View style={{ width: 70, alignItems: 'center', justifyContent: 'center' }}>
            {pages.length > 1
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
              {url ? <Image source={{ uri: url }} style={{ width: '100%', height: '100%' }} accessibilityLabel="" /> : null}
            </View>
          </View>
          <View style={{ flex: 1, gap: 2 }}>
            <Text variant="titleMedium">{document.name}</Text>
            <Text variant="bodySmall" style={{ color: t.pencil }}>
              {about}
            </Text>
            <View style={{ flexDirection: 'row', alignItems: 'center', gap: 6 }}>
              <View style={{ width: 8, height: 8, borderRadius: 4, backgroundColor: t[tones[fate.tone]] }} />
              <Text variant="bodySmall" style={{ color: t[tones[fate.tone]], flex: 1 }}>
                {fate.words}
              </Text>
            </View>
          </View>
        </Pressable>
      </Link>
      <View style={{ justifyContent: 'flex-start', paddingTop: 8 }}>
        <MoreMenu
          label={`More for ${document.name}`}
          entries={[{ icon: 'delete-outline', title: 'Put in the bin', onPress: () => dispatch(deleteDocument(document)) }]}
        />
      </View>
    </View>
  );
}
