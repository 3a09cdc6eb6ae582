import { useRef, useState } from 'react';
import { View } from 'react-native';
import { Switch, Text } from 'react-native-paper';
import { useApp, useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { PressRow } from '../ui/PressRow';
import { Progress } from '../ui/Progress';
import { useTokens } from '../ui/theme';
import { problemInWords } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { blobSink, coveredPages, writeBackup, type BackupDone } from '../work/backup';
import { saveBlob } from '../work/saveBlob';
import { keepingProblem } from '../work/importing';
import { cancelJob, jobOf } from '../work/jobs';
import { restoreBackup, type RestoreDone } from '../work/restore';

const type = 'application/zip';
type Saved = (fileName: string) => Promise<{ createWritable(): Promise<WritableStream<Uint8Array>> }>;

/** Where the browser lets a person choose a file to write to; it streams there then. */
const choose: Saved | null =
  'showSaveFilePicker' in globalThis
    ? (suggestedName) =>
        (globalThis as unknown as { showSaveFilePicker(o: object): ReturnType<Saved> }).showSaveFilePicker({
          suggestedName,
          types: [{ accept: { [type]: ['.zip'] } }],
        })
    : null;

type Result = { kind: 'saved'; done: BackupDone } | { kind: 'restored'; done: RestoreDone } | { kind: 'failed'; words: string };

const countsOf = ({ added, changed, same }: RestoreDone) => ({ added, changed, same });

/** Everything in one file that others can read too, and back from it. */
export function Backup() {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const ids = useApp((s) => Object.values(s.library.summary).flatMap((d) => (d.deletedAt ? [] : [d.id])).join()); // prettier-ignore
  const writing = useApp((s) => jobOf(s, 'backup'));
  const reading = useApp((s) => jobOf(s, 'restore'));
  const [pdfs, setPdfs] = useState(false);
  const [asked, setAsked] = useState<number | null>(null);
  const [result, setResult] = useState<Result | null>(null);
  const documents = ids ? ids.split(',') : [];
  const job = writing ?? reading;
  const fail = (error: unknown) => {
    // Put away again by whoever was to choose a file.
    if ((error as Error).name === 'AbortError') return setResult(null);
    setResult({ kind: 'failed', words: problemInWords(say, keepingProblem(error)) });
  };

  const write = async (covered: boolean) => {
    setAsked(null);
    setResult(null);
    const fileName = `libretto-${new Date().toISOString().slice(0, 10)}.zip`;
    try {
      const sink = choose ? null : blobSink(type);
      const stream = sink ? sink.stream : await (await choose!(fileName)).createWritable();
      const done = await dispatch(writeBackup(documents, stream, { covered, pdfs }));
      if (!done) return;
      if (sink) saveBlob(sink.blob(), fileName);
      setResult({ kind: 'saved', done });
    } catch (error) {
      fail(error);
    }
  };
  const begin = async () => {
    const covered = await coveredPages(documents);
    if (covered) setAsked(covered);
    else await write(true);
  };
  const read = async (file: File | undefined) => {
    if (!file) return;
    setResult(null);
    try {
      const done = await dispatch(restoreBackup(file));
      if (done) setResult({ kind: 'restored', done });
    } catch (error) {
      fail(error);
    }
  };
  const input = useRef<HTMLInputElement>(null);

  return (
    <View style={{ gap: 10 }}>
      <Text style={{ color: t.pencil }}>{say('backup.about')}</Text>
      <PressRow role="switch" checked={pdfs} label={say('backup.pdfs')} onPress={() => setPdfs(!pdfs)}>
        <Text style={{ flex: 1 }}>{say('backup.pdfs')}</Text>
        <Switch value={pdfs} />
      </PressRow>
      {asked !== null ? (
        <View role="alert" style={{ gap: 8 }}>
          <Text>{say('backup.covered', { count: asked })}</Text>
          <View style={{ flexDirection: 'row', gap: 8, flexWrap: 'wrap' }}>
            <Action onPress={() => void write(false)}>{say('backup.without')}</Action>
            <Action onPress={() => void write(true)}>{say('backup.with')}</Action>
            <Action onPress={() => setAsked(null)}>{say('common.cancel')}</Action>
          </View>
        </View>
      ) : job ? (
        <View role="status" style={{ gap: 8 }}>
          <Text>{say(writing ? 'backup.writing' : 'backup.reading', { done: job.done, total: job.total })}</Text>
          <Progress value={job.done / Math.max(1, job.total)} label={say('backup.progress')} />
          <Action onPress={() => dispatch(cancelJob(job.id))} style={{ alignSelf: 'flex-start' }}>
            {say('common.cancel')}
          </Action>
        </View>
      ) : (
        <View style={{ flexDirection: 'row', gap: 8, flexWrap: 'wrap' }}>
          <Action disabled={!documents.length} onPress={() => void begin()}>
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
          void read(target.files?.[0]);
          // The same one can be chosen again.
          target.value = '';
        }}
      />
      {result ? (
        <View role="status" testID="backup-result" style={{ gap: 4 }}>
          {result.kind === 'failed' ? (
            <Text style={{ color: t.rust }}>{say('backup.failed', { reason: result.words })}</Text>
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
