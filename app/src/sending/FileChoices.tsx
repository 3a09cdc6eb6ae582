import { useState } from 'react';
import { View } from 'react-native';
import { Text } from 'react-native-paper';
import {
  isWords,
  pageFormats,
  paperIds,
  wordFormats,
  type Document,
  type FileFormat,
  type Page,
  type PaperId,
} from '@libretto/model';
import { setSent } from '../store/editing';
import { useAppDispatch } from '../store/store';
import { Choice, type ChoiceProps } from '../ui/Choice';
import { Field } from '../ui/Field';
import { SwitchRow } from '../ui/SwitchRow';
import { useTokens } from '../ui/theme';
import { useSay } from '../ui/words/words';
import type { SendFileProps } from './SendFile';

/** Megabytes that a PDF may be made smaller than. */
const limits = [20, 10, 5, 2, 1];

export interface FileChoicesProps extends Pick<SendFileProps, 'password' | 'onPassword'> {
  document: Document;
  pages: readonly Page[];
}

/** What can be chosen of a document's file: its format, in one or by page, and of a PDF paper, size, words and password. */
export function FileChoices({ document, pages, password, onPassword }: FileChoicesProps) {
  const say = useSay();
  const dispatch = useAppDispatch();
  const set = <K extends Parameters<typeof setSent>[1]>(what: K, value: Document[K] | undefined) =>
    void dispatch(setSent(document, what, value));
  const [locking, setLocking] = useState(password !== '');
  const [typed, setTyped] = useState(password ?? '');
  const format = document.format ?? 'pdf';
  const words = isWords(format);
  const searchable = document.searchable !== false;
  return (
    <>
      <LabelledChoice
        label={say('send.format.label')}
        value={words ? 'words' : format}
        options={[...pageFormats, 'words' as const].map((id) => ({ value: id, label: say(`send.format.${id}`) }))}
        onChange={(value) => set('format', value === 'words' ? 'docx' : (value as FileFormat))}
      />
      {words ? (
        <LabelledChoice
          label={say('send.format.words')}
          value={format}
          options={wordFormats.map((id) => ({ value: id, label: say(`send.format.${id}`), name: say(`send.about.${id}`) }))}
          onChange={(value) => set('format', value)}
        />
      ) : null}
      {pages.length > 1 ? (
        <LabelledChoice
          label={say('send.filesLabel')}
          value={document.files ?? 'one'}
          options={[
            { value: 'one', label: say('send.oneFile') },
            { value: 'page', label: say('send.files', { count: pages.length }) },
          ]}
          onChange={(value) => set('files', value)}
        />
      ) : null}
      {format === 'pdf' ? (
        <>
          <LabelledChoice
            label={say('send.paper.label')}
            value={document.paper ?? 'own'}
            options={(['own', ...paperIds] as const).map((id) => ({ value: id, label: say(`send.paper.${id}`), name: say(id === 'own' ? 'send.paper.own' : 'send.paper.all', { paper: say(`send.paper.${id}`) }) }))} // prettier-ignore
            onChange={(id) => set('paper', id === 'own' ? undefined : (id as PaperId))}
          />
          <LabelledChoice
            label={say('send.under.label')}
            value={String(document.underMb ?? 0)}
            options={[0, ...limits].map((mb) => ({
              value: String(mb),
              label: mb ? String(mb) : say('send.under.none'),
              name: mb ? say('send.under.mb', { mb }) : say('send.under.none'),
            }))}
            onChange={(mb) => set('underMb', Number(mb) || undefined)}
          />
          <SwitchRow label={say('send.searchable')} on={searchable} onPress={() => set('searchable', !searchable)} />
          <SwitchRow
            label={say('send.password.on')}
            about={locking ? say('send.password.about') : null}
            on={locking}
            onPress={() => {
              setLocking(!locking);
              setTyped('');
              onPassword(locking ? '' : null);
            }}
          />
          {locking ? (
            <Field
              autoFocus
              label={say('send.password.label')}
              value={typed}
              onChangeText={setTyped}
              onBlur={() => onPassword(typed || null)}
              onSubmitEditing={() => onPassword(typed || null)}
              autoComplete="off"
              autoCapitalize="none"
              maxLength={100}
            />
          ) : null}
        </>
      ) : null}
    </>
  );
}

function LabelledChoice<T extends string>(props: ChoiceProps<T>) {
  const t = useTokens();
  return (
    <View style={{ gap: 4 }}>
      <Text variant="bodySmall" style={{ color: t.pencil }}>
        {props.label}
      </Text>
      <Choice {...props} />
    </View>
  );
}
