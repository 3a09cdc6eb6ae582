import { useMemo } from 'react';
import { View } from 'react-native';
import { Text, TouchableRipple } from 'react-native-paper';
import type { Page } from '@libretto/model';
import type { Suggestion } from '@libretto/text/suggest';
import { Snippet } from '../ui/Snippet';
import { settingsId } from '../store/library';
import { useApp } from '../store/store';
import { useTokens } from '../ui/theme';
import { corner } from '../ui/tokens';
import { useSay } from '../ui/words/words';
import { suggestionsIn } from '../work/suggesting';
import { usePageImage } from '../work/usePageImage';
import { usePageText } from '../work/usePageText';
import { nameFrom, sure } from './readNames';
import { usePattern } from './usePattern';

export interface NameSuggestionsProps {
  page: Page;
  onPick: (suggestion: Suggestion) => void;
  /** The whole name as the pattern makes it, and the sender in it. */
  onName: (name: string, sender: Suggestion | undefined) => void;
  /** When the document was scanned. */
  scannedAt: string;
}

/** What was read on the first page and belongs into the name, each with the spot of the page that it was read from: a touch takes it. */
export function NameSuggestions({ page, onPick, onName, scannedAt }: NameSuggestionsProps) {
  const t = useTokens();
  const say = useSay();
  // Whoever is about to name it has it read now.
  const { text, state } = usePageText(page.state === 'ready' && page.recipe ? page : null);
  const { url, image } = usePageImage(page, 'screen');
  const folder = useApp((s) => s.library.summary[page.documentId]?.folder);
  const pattern = usePattern(folder);
  const senders = useApp((s) => s.library.settings[settingsId]?.senders);
  const found = useMemo(() => suggestionsIn(text, senders), [text, senders]);
  if (state === 'reading')
    return (
      <Text role="status" variant="bodySmall" style={{ color: t.pencil, paddingTop: 6 }}>
        {say('text.reading')}
      </Text>
    );
  if (!found.length) return null;
  const { name, unsure, sender } = nameFrom(found, pattern, scannedAt);
  return (
    // A touch must not take the focus from the name.
    <div role="group" aria-label={say('document.read')} onMouseDown={(event) => event.preventDefault()}>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 6, paddingTop: 6 }}>
        {name ? (
          <TouchableRipple
            role="button"
            aria-label={say('names.byPattern', { name })}
            onPress={() => onName(name, sender)}
            style={{
              minHeight: 48,
              maxWidth: '100%',
              justifyContent: 'center',
              paddingHorizontal: 10,
              borderRadius: corner,
              borderWidth: 2,
              borderColor: unsure ? t.brass : t.wine,
              backgroundColor: t.leaf,
            }}
          >
            <Text variant="labelLarge" numberOfLines={2} style={{ color: unsure ? t.brass : t.wine }}>
              {name}
            </Text>
          </TouchableRipple>
        ) : null}
        {found.map((suggestion) => (
          <TouchableRipple
            key={`${suggestion.kind} ${suggestion.text}`}
            role="button"
            aria-label={say(`document.take.${suggestion.kind}`, { text: suggestion.text })}
            onPress={() => onPick(suggestion)}
            style={{
              minHeight: 48,
              maxWidth: '100%',
              justifyContent: 'center',
              paddingHorizontal: 10,
              paddingVertical: 4,
              borderRadius: corner,
              borderWidth: 1,
              borderColor: suggestion.right < sure ? t.brass : t.hairline,
              backgroundColor: t.leaf,
            }}
          >
            <View style={{ gap: 2 }}>
              <Text variant="labelMedium" numberOfLines={2} style={{ color: suggestion.right < sure ? t.brass : t.wine }}>
                {suggestion.text}
              </Text>
              {url && image ? <Snippet url={url} ratio={image.width / image.height} box={suggestion.box} /> : null}
            </View>
          </TouchableRipple>
        ))}
      </View>
    </div>
  );
}
