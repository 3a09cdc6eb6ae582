import { useState } from 'react';
import { View } from 'react-native';
import { Text } from 'react-native-paper';
import { fitsMail, formatEndings, hasDoubt, isWords, type Document, type Page } from '@libretto/model';
import { NameLine } from '../documents/NameLine';
import { useApp } from '../store/store';
import { Action } from '../ui/Action';
import { Progress } from '../ui/Progress';
import { useTokens } from '../ui/theme';
import { fileSize, problemAlone } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { FileChoices } from './FileChoices';
import type { Making } from './useMadeFiles';

export interface SendFileProps {
  document: Document;
  pages: readonly Page[];
  making: Making;
  /** What opens the PDF; null while one is wanted and none is typed. */
  password: string | null;
  onPassword: (password: string | null) => void;
  /** It fits no mailbox that was chosen: what would help is shown. */
  tooLarge: boolean;
}

/** What goes out: its name as it will be and its size; what of it can be chosen opens on demand, so that the places stand in sight. */
export function SendFile({ document, pages, making: { files, done, problem }, password, onPassword, tooLarge }: SendFileProps) {
  const t = useTokens();
  const say = useSay();
  const read = useApp((s) => pages.filter((p) => s.session.texts[p.id]).length);
  const [opened, setOpened] = useState<boolean | null>(null);
  const open = opened ?? tooLarge;
  const format = document.format ?? 'pdf';
  const words = isWords(format);
  // As it goes out: several pictures are a ZIP, one in black and white a PNG.
  const ending = (files?.length === 1 && files[0]!.fileName.split('.').at(-1)) || formatEndings[format];
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
        <NameLine document={document} large={false} level={2} extension={ending} />
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
        {lighter ? (
          <Text variant="bodySmall" style={{ color: lighter.fits ? t.pencil : t.rust }}>
            {say(lighter.fits ? 'send.under.lost' : 'send.under.cannot', { dpi: lighter.dpi, mb: document.underMb ?? 0 })}
          </Text>
        ) : null}
        {doubts ? (
          <Text variant="bodySmall" style={{ color: t.brass }}>
            {say('send.doubts', { count: doubts })}
          </Text>
        ) : null}
        {format === 'pdf' && password === null ? (
          <Text variant="bodySmall" style={{ color: t.brass }}>
            {say('send.password.none')}
          </Text>
        ) : null}
      </View>
      {read < pages.length && (words || (format === 'pdf' && document.searchable !== false)) ? (
        <Text variant="bodySmall" style={{ color: t.pencil }}>
          {say(words ? 'send.stillReadingText' : 'send.stillReading', { done: read, total: pages.length })}
        </Text>
      ) : null}
      <Action onPress={() => setOpened(!open)} style={{ alignSelf: 'flex-start' }}>
        {say(open ? 'send.changed' : 'send.change')}
      </Action>
      {open ? <FileChoices document={document} pages={pages} password={password} onPassword={onPassword} /> : null}
    </>
  );
}
