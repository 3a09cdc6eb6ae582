import { useState } from 'react';
import { View } from 'react-native';
import { Text } from 'react-native-paper';
import type { Page } from '@libretto/model';
import type { ReadText } from '../store/files';
import { useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { Field } from '../ui/Field';
import { Snippet } from '../ui/Snippet';
import { useTokens } from '../ui/theme';
import { useSay } from '../ui/words/words';
import { correctWord } from '../work/correcting';
import { usePageImage } from '../work/usePageImage';
import { sure } from './sure';

/** So many stand there at a time; the next come up as they are put right. */
const most = 12;

/** The words that are doubtful, each with its spot of the page: as they are, or put right. */
export function WordsToCheck({ page, text }: { page: Page; text: ReadText }) {
  const t = useTokens();
  const say = useSay();
  const { url, image } = usePageImage(page, 'screen');
  const doubtful = text.lines
    .flatMap((line, i) => line.flatMap((word, j) => (word[5] < sure ? [{ i, j, word }] : [])))
    .slice(0, most);
  if (!doubtful.length) return <Text style={{ color: t.moss }}>{say('text.noneToCheck')}</Text>;
  return (
    <View role="list" aria-label={say('text.check')} style={{ gap: 10 }}>
      {doubtful.map(({ i, j, word: [word, x, y, width, height] }) => (
        <View key={`${x} ${y} ${word}`} role="listitem" style={{ gap: 4 }}>
          {url && image ? (
            <Snippet url={url} ratio={image.width / image.height} box={{ x, y, width, height }} height={26} maxWidth={320} />
          ) : null}
          <Word page={page} text={text} line={i} word={j} />
        </View>
      ))}
    </View>
  );
}

function Word({ page, text, line, word }: { page: Page; text: ReadText; line: number; word: number }) {
  const say = useSay();
  const dispatch = useAppDispatch();
  const [read] = text.lines[line]![word]!;
  const [typed, setTyped] = useState(read);
  const [busy, setBusy] = useState(false);
  const take = async () => {
    setBusy(true);
    await dispatch(correctWord(page, text, line, word, typed));
    setBusy(false);
  };
  return (
    <View style={{ flexDirection: 'row', gap: 8 }}>
      <Field
        label={say('text.word', { word: read })}
        value={typed}
        onChangeText={setTyped}
        onSubmitEditing={() => void take()}
        maxLength={200}
        autoCapitalize="none"
        style={{ flex: 1 }}
      />
      <Action disabled={busy} onPress={() => void take()}>
        {say(typed.trim() ? 'text.right' : 'text.noWord')}
      </Action>
    </View>
  );
}
