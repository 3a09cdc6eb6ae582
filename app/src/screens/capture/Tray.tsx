import { Link } from 'expo-router';
import { Image, Pressable, ScrollView, View } from 'react-native';
import { ActivityIndicator, Text } from 'react-native-paper';
import type { Page } from '@libretto/model';
import { usePageImage } from '../../components/usePageImage';
import { darkTokens } from '../../theme/tokens';

/** The pages of the run, newest first, each with its number and, once known, its check. */
export function Tray({ pages, pending }: { pages: readonly Page[]; pending: number }) {
  return (
    <ScrollView
      horizontal
      style={{ flexGrow: 0, minHeight: 128 }}
      contentContainerStyle={{ gap: 10, paddingHorizontal: 14, alignItems: 'flex-end' }}
    >
      {Array.from({ length: pending }, (_, i) => (
        <View
          key={`pending-${i}`}
          role="status"
          aria-label="Storing"
          style={{ width: 66, height: 92, backgroundColor: darkTokens.leaf, justifyContent: 'center', marginBottom: 26 }}
        >
          <ActivityIndicator size={18} />
        </View>
      ))}
      {pages.map((page, i) => <TrayLeaf key={page.id} page={page} folio={i + 1} />).reverse()}
    </ScrollView>
  );
}

function TrayLeaf({ page, folio }: { page: Page; folio: number }) {
  const t = darkTokens;
  const { url, image } = usePageImage(page, 'screen');
  const ratio = image ? image.width / image.height : 0.7;
  const check = page.state === 'failed' ? 'Not read' : page.checks[0]?.words;
  const [w, h] = ratio > 0.9 ? [88, 88 / ratio] : [92 * ratio, 92];
  return (
    <Link href={`/document/${page.documentId}/page/${page.id}`} asChild>
      <Pressable
        testID="tray-leaf"
        aria-label={`Page ${folio}${check ? `, ${check}` : ''}`}
        style={{ alignItems: 'center', gap: 4, maxWidth: 96 }}
      >
        <View style={{ width: Math.max(30, w), height: Math.max(30, h), backgroundColor: '#FFFDF8', justifyContent: 'center' }}>
          {url ? (
            <Image source={{ uri: url }} style={{ width: '100%', height: '100%' }} accessibilityLabel="" />
          ) : (
            <ActivityIndicator size={18} />
          )}
        </View>
        <Text variant="bodySmall" numberOfLines={1} style={{ color: check ? t.brass : t.pencil, minHeight: 20 }}>
          {check ? `${folio} · ${check}` : folio}
        </Text>
      </Pressable>
    </Link>
  );
}
