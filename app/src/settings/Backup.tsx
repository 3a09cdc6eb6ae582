import { useRef, useState } from 'react';
import { View } from 'react-native';
import { Text } from 'react-native-paper';
import { useApp } from '../store/store';
import { Action } from '../ui/Action';
import { SwitchRow } from '../ui/SwitchRow';
import { Progress } from '../ui/Progress';
import { useTokens } from '../ui/theme';
import { problemInWords } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { useBackup } from '../work/useBackup';
import type { RestoreDone } from '../work/restore';

const countsOf = ({ added, changed, same }: RestoreDone) => ({ added, changed, same });

/** Everything in one file that others can read too, and back from it. */
export function Backup() {
  const t = useTokens();
  const say = useSay();
  const ids = useApp((s) => Object.values(s.library.summary).flatMap((d) => (d.deletedAt ? [] : [d.id])).join()); // prettier-ignore
  const [pdfs, setPdfs] = useState(false);
  const { writing, job, asked, result, write: writeTo, begin, read, cancelAsking, cancel } = useBackup();
  const documents = ids ? ids.split(',') : [];
  const fileName = `libretto-${new Date().toISOString().slice(0, 10)}.zip`;
  const write = (covered: boolean) => writeTo(documents, fileName, { covered, pdfs });
  const input = useRef<HTMLInputElement>(null);

  return (
    <View style={{ gap: 10 }}>
      <Text style={{ color: t.pencil }}>{say('backup.about')}</Text>
      <SwitchRow label={say('backup.pdfs')} on={pdfs} onPress={() => setPdfs(!pdfs)} />
      {asked !== null ? (
        <View role="alert" style={{ gap: 8 }}>
          <Text>{say('backup.covered', { count: asked })}</Text>
          <View style={{ flexDirection: 'row', gap: 8, flexWrap: 'wrap' }}>
            <Action onPress={() => void write(false)}>{say('backup.without')}</Action>
            <Action onPress={() => void write(true)}>{say('backup.with')}</Action>
            <Action onPress={cancelAsking}>{say('common.cancel')}</Action>
          </View>
        </View>
      ) : job ? (
        <View role="status" style={{ gap: 8 }}>
          <Text>{say(writing ? 'backup.writing' : 'backup.reading', { done: job.done, total: job.total })}</Text>
          <Progress value={job.done / Math.max(1, job.total)} label={say('backup.progress')} />
          <Action onPress={() => cancel(job.id)} style={{ alignSelf: 'flex-start' }}>
            {say('common.cancel')}
          </Action>
        </View>
      ) : (
        <View style={{ flexDirection: 'row', gap: 8, flexWrap: 'wrap' }}>
          <Action disabled={!documents.length} onPress={() => void begin(documents, fileName, pdfs)}>
            {say('backup.save')}
          </Action>
          <Action onPress={() => input.current?.click()}>{say('backup.restore')}</Action>
        </View>
      )}
      <input
        ref={input}
        type="file"
        accept=".zip,application/zip"
        hidden
        aria-label={say('backup.file')}
        data-testid="backup-input"
        onChange={({ target }) => {
          const file = target.files?.[0];
          if (file) void read(file);
          // The same one can be chosen again.
          target.value = '';
        }}
      />
      {result ? (
        <View role="status" testID="backup-result" style={{ gap: 4 }}>
          {result.kind === 'failed' ? (
            <Text style={{ color: t.rust }}>{say('backup.failed', { reason: problemInWords(say, result.problem) })}</Text>
          ) : null}
          {result.kind === 'saved' ? (
            <>
              <Text style={{ color: t.moss }}>
                {say('backup.saved', {
                  documents: say('documents', { count: result.done.documents }),
                  pages: say('pages', { count: result.done.pages }),
                })}
              </Text>
              {result.done.leftOut ? <Text>{say('backup.leftOut', { count: result.done.leftOut })}</Text> : null}
              {result.done.photosGone ? <Text>{say('backup.gone', { count: result.done.photosGone })}</Text> : null}
            </>
          ) : null}
          {result.kind === 'restored' ? (
            <>
              <Text style={{ color: t.moss }}>{say('backup.restored', countsOf(result.done))}</Text>
              {result.done.cut ? <Text style={{ color: t.rust }}>{say('backup.cut')}</Text> : null}
              {result.done.missing.length ? (
                <Text style={{ color: t.rust }}>{say('backup.missing', { names: result.done.missing.join(', ') })}</Text>
              ) : null}
            </>
          ) : null}
        </View>
      ) : null}
    </View>
  );
}
