import { View } from 'react-native';
import { Text } from 'react-native-paper';
import { safeFileName, type Summary } from '@libretto/model';
import { Action } from '../ui/Action';
import { Sheet } from '../ui/Sheet';
import { Progress } from '../ui/Progress';
import { useTokens } from '../ui/theme';
import { problemInWords } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { useBackup } from '../work/useBackup';

/** Some documents as a file of their own: photographs and all that was done with them, to go on with elsewhere. */
export function BackupSheet({ documents, onClose }: { documents: readonly Summary[]; onClose: () => void }) {
  const t = useTokens();
  const say = useSay();
  const { job, asked, result, write, begin, cancelAsking, cancel } = useBackup();
  const ids = documents.map((d) => d.id);
  const named = documents.length === 1 ? documents[0]!.name : say('documents', { count: documents.length });
  const fileName = safeFileName(`${named}, Libretto`, 'zip');
  return (
    <Sheet title={say('backup.someTitle')} onClose={onClose}>
      <Text style={{ color: t.pencil }}>{say('backup.someAbout', { what: named })}</Text>
      {asked !== null ? (
        <View role="alert" style={{ gap: 8 }}>
          <Text>{say('backup.covered', { count: asked })}</Text>
          <Action onPress={() => void write(ids, fileName, { covered: false, pdfs: false })}>{say('backup.without')}</Action>
          <Action onPress={() => void write(ids, fileName, { covered: true, pdfs: false })}>{say('backup.with')}</Action>
          <Action onPress={cancelAsking}>{say('common.cancel')}</Action>
        </View>
      ) : job ? (
        <View role="status" style={{ gap: 8 }}>
          <Text>{say('backup.writing', { done: job.done, total: job.total })}</Text>
          <Progress value={job.done / Math.max(1, job.total)} label={say('backup.progress')} />
          <Action onPress={() => cancel(job.id)}>{say('common.cancel')}</Action>
        </View>
      ) : (
        <>
          {result?.kind === 'failed' ? (
            <Text role="alert" style={{ color: t.rust }}>
              {say('backup.failed', { reason: problemInWords(say, result.problem) })}
            </Text>
          ) : result?.kind === 'saved' ? (
            <Text role="status" style={{ color: t.moss }}>
              {say('backup.saved', {
                documents: say('documents', { count: result.done.documents }),
                pages: say('pages', { count: result.done.pages }),
              })}
            </Text>
          ) : null}
          <Action main onPress={() => void begin(ids, fileName, false)}>
            {say('backup.someSave')}
          </Action>
          <Action onPress={onClose}>{say(result?.kind === 'saved' ? 'common.done' : 'common.cancel')}</Action>
        </>
      )}
    </Sheet>
  );
}
