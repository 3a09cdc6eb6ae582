import { useState } from 'react';
import { View } from 'react-native';
import { SegmentedButtons, Text } from 'react-native-paper';
import {
  fitsMail,
  formatEndings,
  hasDoubt,
  isWords,
  pageFormats,
  paperIds,
  wordFormats,
  type Document,
  type FileFormat,
  type Page,
  type PaperId,
} from '@libretto/model';
import { NameLine } from '../documents/NameLine';
import { setSent } from '../store/editing';
import { useApp, useAppDispatch } from '../store/store';
import { Choice } from '../ui/Choice';
import { Field } from '../ui/Field';
import { SwitchRow } from '../ui/SwitchRow';
import { Progress } from '../ui/Progress';
import { useTokens } from '../ui/theme';
import { fileSize, problemAlone } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import type { Making } from './useMadeFiles';

/** Megabytes that a PDF may be made smaller than. */
const limits = [20, 10, 5, 2, 1];

export interface SendFileProps {
  document: Document;
  pages: readonly Page[];
  making: Making;
  /** What opens the PDF; null while one is wanted and none is typed. */
  password: string | null;
  onPassword: (password: string | null) => void;
}

/** What goes out: its name as it will be, its size, its format, and what of it can be chosen. */
export function SendFile({ document, pages, making: { files, done, problem }, password, onPassword }: SendFileProps) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const read = useApp((s) => pages.filter((p) => s.session.texts[p.id]).length);
  const [locking, setLocking] = useState(password !== '');
  const [typed, setTyped] = useState(password ?? '');
  const format = document.format ?? 'pdf';
  const words = isWords(format);
  const searchable = words || document.searchable !== false;
  const perPage = document.files === 'page';
  const ready = words ? read : done;
  const bytes = files?.reduce((sum, f) => sum + f.blob.size, 0) ?? 0;
  const largest = Math.max(0, ...(files ?? []).map((f) => f.blob.size));
  const ink = pages.filter((p) => p.made?.filter === 'ink').length;
  const doubts = pages.filter(hasDoubt).length;
  // The worst of all files.
  const lighter = files?.flatMap((f) => f.lighter ?? []).sort((a, b) => Number(a.fits) - Number(b.fits) || a.dpi - b.dpi)[0];
  const size = say(document.paper ? 'send.paper.on' : 'send.paper.true', { paper: document.paper ? say(`send.paper.${document.paper}`) : '' }); // prettier-ignore
  const about =
    files && format !== 'pdf'
      ? say(`send.about.${format}`, { count: files.length })
      : files
        ? perPage
          ? say('send.each', { count: files.length, size })
          : say('send.one', { pages: say('pages', { count: pages.length }), size })
        : '';
  return (
    <>
      <View>
        <Text variant="bodySmall" style={{ color: t.pencil }}>
          {say('send.name')}
        </Text>
        <NameLine document={document} large={false} level={2} extension={formatEndings[format]} />
      </View>
      <View role="status" style={{ gap: 4 }}>
        {problem ? (
          <Text style={{ color: t.rust }}>{problemAlone(say, problem)}</Text>
        ) : files ? (
          <>
            <Text testID="file-size" variant="labelLarge">
              {say(fitsMail(largest) ? 'send.fits' : 'send.tooLargeForMost', { size: fileSize(bytes) })}
            </Text>
            <Text variant="bodySmall" style={{ color: t.pencil }}>
              {!ink || format !== 'pdf'
                ? about
                : ink === pages.length
                  ? say('send.inkAll', { about })
                  : say('send.ink', { about, count: ink })}
            </Text>
          </>
        ) : (
          <>
            <Text>
              {say(words ? 'send.reading' : 'send.making', { page: Math.min(ready + 1, pages.length), total: pages.length })}
            </Text>
            <Progress value={ready / Math.max(1, pages.length)} label={say('send.progress')} />
          </>
        )}
        {doubts ? (
          <Text variant="bodySmall" style={{ color: t.brass }}>
            {say('send.doubts', { count: doubts })}
          </Text>
        ) : null}
      </View>
      <Choice
        label={say('send.format.label')}
        value={words ? 'words' : format}
        options={[...pageFormats, 'words' as const].map((id) => ({ value: id, label: say(`send.format.${id}`) }))}
        onChange={(value) => void dispatch(setSent(document, 'format', value === 'words' ? 'docx' : (value as FileFormat)))}
      />
      {words ? (
        <Choice
          label={say('send.format.words')}
          value={format}
          options={wordFormats.map((id) => ({ value: id, label: say(`send.format.${id}`), name: say(`send.about.${id}`) }))}
          onChange={(value) => void dispatch(setSent(document, 'format', value))}
        />
      ) : null}
      {pages.length > 1 ? (
        <View role="group" aria-label={say('send.filesLabel')}>
          <SegmentedButtons
            value={document.files ?? 'one'}
            onValueChange={(value) => void dispatch(setSent(document, 'files', value as 'one' | 'page'))}
            buttons={[
              { value: 'one', label: say('send.oneFile') },
              { value: 'page', label: say('send.files', { count: pages.length }) },
            ]}
          />
        </View>
      ) : null}
      {format === 'pdf' ? (
        <View style={{ gap: 4 }}>
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            {say('send.paper.label')}
          </Text>
          <Choice
            label={say('send.paper.label')}
            value={document.paper ?? 'own'}
            options={(['own', ...paperIds] as const).map((id) => ({ value: id, label: say(`send.paper.${id}`), name: say(id === 'own' ? 'send.paper.own' : 'send.paper.all', { paper: say(`send.paper.${id}`) }) }))} // prettier-ignore
            onChange={(id) => void dispatch(setSent(document, 'paper', id === 'own' ? undefined : (id as PaperId)))}
          />
        </View>
      ) : null}
      {format === 'pdf' ? (
        <View style={{ gap: 4 }}>
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            {say('send.under.label')}
          </Text>
          <Choice
            label={say('send.under.label')}
            value={String(document.underMb ?? 0)}
            options={[0, ...limits].map((mb) => ({
              value: String(mb),
              label: mb ? String(mb) : say('send.under.none'),
              name: mb ? say('send.under.mb', { mb }) : say('send.under.none'),
            }))}
            onChange={(mb) => void dispatch(setSent(document, 'underMb', Number(mb) || undefined))}
          />
          {lighter ? (
            <Text role="status" variant="bodySmall" style={{ color: lighter.fits ? t.pencil : t.rust }}>
              {say(lighter.fits ? 'send.under.lost' : 'send.under.cannot', { dpi: lighter.dpi, mb: document.underMb ?? 0 })}
            </Text>
          ) : null}
        </View>
      ) : null}
      {format === 'pdf' ? (
        <SwitchRow
          label={say('send.searchable')}
          about={searchable && read < pages.length ? say('send.stillReading', { done: read, total: pages.length }) : null}
          on={searchable}
          onPress={() => void dispatch(setSent(document, 'searchable', !searchable))}
        />
      ) : words && read < pages.length ? (
        <Text variant="bodySmall" style={{ color: t.pencil }}>
          {say('send.stillReadingText', { done: read, total: pages.length })}
        </Text>
      ) : null}
      {format === 'pdf' ? (
        <>
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
          {locking && !password ? (
            <Text role="status" variant="bodySmall" style={{ color: t.brass }}>
              {say('send.password.none')}
            </Text>
          ) : null}
        </>
      ) : null}
    </>
  );
}
