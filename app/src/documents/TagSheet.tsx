import { useState } from 'react';
import { View } from 'react-native';
import { Text, TouchableRipple } from 'react-native-paper';
import type { Summary } from '@libretto/model';
import { cleanTag, tagDocuments } from '../store/filing';
import { useApp, useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { Field } from '../ui/Field';
import { Sheet } from '../ui/Sheet';
import { Sign } from '../ui/Sign';
import { useTokens } from '../ui/theme';
import { corner } from '../ui/tokens';
import { useSay } from '../ui/words/words';
import { documentsOnShelf, tagsOnShelf } from './shelfRows';

const mostOffered = 10;

/** The tags of documents: those that all of them have can be taken off, and further ones given. */
export function TagSheet({ documents: asked, onClose }: { documents: readonly Summary[]; onClose: () => void }) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const all = useApp(documentsOnShelf);
  const [typed, setTyped] = useState('');
  const ids = asked.map((d) => d.id);
  const documents = all.filter((d) => ids.includes(d.id));
  const having = (tag: string) => documents.filter((d) => d.tags?.includes(tag)).length;
  const own = [...new Set(documents.flatMap((d) => d.tags ?? []))];
  const beginning = typed.trim().toLowerCase();
  const offered = useApp(tagsOnShelf)
    .filter((tag) => !own.includes(tag) && tag.toLowerCase().includes(beginning))
    .slice(0, mostOffered);
  const give = (tag: string) => {
    if (cleanTag(tag)) void dispatch(tagDocuments(documents, { add: [tag] }));
    setTyped('');
  };
  const word = (tag: string, on: boolean, label: string, onPress: () => void, icon: string) => (
    <TouchableRipple
      key={tag}
      role="button"
      aria-label={label}
      onPress={onPress}
      style={{
        minHeight: 44,
        justifyContent: 'center',
        paddingHorizontal: 12,
        borderRadius: corner,
        borderWidth: 1,
        borderColor: on ? t.wine : t.hairline,
      }}
    >
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 6 }}>
        <Text style={{ color: on ? t.wine : t.ink }}>{tag}</Text>
        <Sign source={icon} size={16} color={on ? t.wine : t.pencil} />
      </View>
    </TouchableRipple>
  );
  return (
    <Sheet title={say('tags.of', { count: documents.length })} onClose={onClose}>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
        {own.map((tag) =>
          having(tag) === documents.length
            ? word(tag, true, say('tags.take', { tag }), () => void dispatch(tagDocuments(documents, { remove: [tag] })), 'close')
            : word(tag, false, say('tags.giveAll', { tag }), () => give(tag), 'plus'),
        )}
        {own.length ? null : <Text style={{ color: t.pencil }}>{say('tags.none')}</Text>}
      </View>
      <View style={{ flexDirection: 'row', gap: 8 }}>
        <Field
          autoFocus
          label={say('tags.new')}
          value={typed}
          onChangeText={setTyped}
          onSubmitEditing={() => give(typed)}
          maxLength={60}
          style={{ flex: 1 }}
        />
        <Action disabled={!cleanTag(typed)} onPress={() => give(typed)}>
          {say('tags.give')}
        </Action>
      </View>
      {offered.length ? (
        <View role="group" aria-label={say('tags.known')} style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
          {offered.map((tag) => word(tag, false, say('tags.giveAll', { tag }), () => give(tag), 'plus'))}
        </View>
      ) : null}
      <Action main onPress={onClose}>
        {say('common.done')}
      </Action>
    </Sheet>
  );
}
