import { useState } from 'react';
import { View } from 'react-native';
import { Text } from 'react-native-paper';
import type { Page } from '@libretto/model';
import { languageIds, languages } from '@libretto/text/languages';
import { noticed } from '../store/session';
import { useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { MoreMenu } from '../ui/MoreMenu';
import { SearchField } from '../ui/SearchField';
import { Spinner } from '../ui/Spinner';
import { useTokens } from '../ui/theme';
import { languageName, share } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import type { PageTextState } from '../work/usePageText';
import type { Taken } from '../work/words.worker';
import { countHits } from './finding';
import { TakeOut } from './TakeOut';
import { sure } from './sure';
import { WordsToCheck } from './WordsToCheck';

/** A page without words may hold a code. */
const nothing: Taken = { tables: [], contact: [], card: false };

export interface TextDrawerProps {
  page: Page;
  read: PageTextState;
  /** Tables and contacts that stand on it. */
  taken: Taken | null;
  query: string;
  onQuery: (query: string) => void;
}

/** What was read on the page: to find, to copy, to read again in another language. */
export function TextDrawer({ page, read, taken, query, onQuery }: TextDrawerProps) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const { text, state, again } = read;
  const [checking, setChecking] = useState(false);
  if (state === 'reading')
    return (
      <View style={{ padding: 24, gap: 10, alignItems: 'center' }}>
        <Spinner />
        <Text role="status" style={{ color: t.pencil }}>
          {say('text.reading')}
        </Text>
      </View>
    );
  const words = text?.lines.flat() ?? [];
  const doubtful = words.filter(([, , , , , right]) => right < sure).length;
  const hits = text ? countHits(text.text, query) : 0;
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(text!.text);
      dispatch(noticed({ code: 'notice.copied' }));
    } catch {
      dispatch(noticed({ code: 'notice.notCopied' }));
    }
  };
  return (
    <View style={{ padding: 16, gap: 12 }}>
      {words.length ? (
        <>
          <SearchField value={query} label={say('text.find')} onChange={onQuery} />
          {query.trim() ? (
            <Text role="status" variant="bodySmall" style={{ color: t.pencil }}>
              {say('text.hits', { count: hits })}
            </Text>
          ) : null}
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            {doubtful ? say('text.doubtful', { count: doubtful, total: words.length }) : say('text.all', { count: words.length })}
          </Text>
        </>
      ) : (
        <Text>{say(state === 'failed' ? 'text.failed' : 'text.none')}</Text>
      )}
      {text && text.unread > 0 ? (
        <Text style={{ color: t.brass }}>{say('text.unread', { share: share(text.unread) })}</Text>
      ) : null}
      {text && checking ? <WordsToCheck page={page} text={text} /> : null}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
        {doubtful || checking ? (
          <Action icon="pencil" onPress={() => setChecking(!checking)}>
            {say(checking ? 'text.checked' : 'text.check')}
          </Action>
        ) : null}
        <Action icon="content-copy" disabled={!words.length} onPress={() => void copy()}>
          {say('text.copy')}
        </Action>
        <MoreMenu
          label={say('text.language')}
          entries={languageIds.map((id) => ({
            title: languageName(languages[id]),
            ...(text?.language === languages[id] && { icon: 'check' }),
            onPress: () => again(id),
          }))}
        >
          {(open) => (
            <Action icon="update" onPress={open as never}>
              {say('text.again', { language: text ? languageName(text.language) : '' })}
            </Action>
          )}
        </MoreMenu>
      </View>
      {text ? <TakeOut page={page} text={text} taken={taken ?? nothing} /> : null}
    </View>
  );
}
