import { useState } from 'react';
import { View } from 'react-native';
import { Text } from 'react-native-paper';
import { useApp, useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { Progress } from '../ui/Progress';
import { useTokens } from '../ui/theme';
import { fileSize } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { canBeFreed, freePhotos } from '../work/freeing';
import { cancelJob, jobOf } from '../work/jobs';

/** Offers to let the photographs of documents go that have arrived, after asking: their finished pages stay. */
export function FreePhotos({ onFreed }: { onFreed: () => void }) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const summaries = useApp((s) => s.library.summary);
  const ids = Object.values(summaries).flatMap((summary) => (canBeFreed(summary) ? summary.id : []));
  const job = useApp((s) => jobOf(s, 'free'));
  const [asking, setAsking] = useState(false);
  const [freed, setFreed] = useState<number | null>(null);
  const free = async () => {
    setAsking(false);
    setFreed(await dispatch(freePhotos(ids)).catch(() => null));
    onFreed();
  };
  if (job)
    return (
      <View style={{ gap: 6 }}>
        <Text role="status">{say('room.freeing', { done: job.done, total: job.total })}</Text>
        <Progress value={job.done / Math.max(1, job.total)} label={say('room.freeingLabel')} />
        <Action style={{ alignSelf: 'flex-start' }} onPress={() => dispatch(cancelJob(job.id))}>
          {say('common.cancel')}
        </Action>
      </View>
    );
  return (
    <>
      {freed === null ? null : <Text role="status">{say('room.freed', { size: fileSize(Math.max(0, freed)) })}</Text>}
      {!ids.length ? null : asking ? (
        <View
          role="alert"
          style={{ gap: 8, padding: 12, borderLeftWidth: 4, borderColor: t.brass, backgroundColor: t.brassWash }}
        >
          <Text>{say('room.freeAsk', { count: ids.length })}</Text>
          <View style={{ flexDirection: 'row', gap: 8 }}>
            <Action main onPress={() => void free()}>
              {say('room.freeYes')}
            </Action>
            <Action onPress={() => setAsking(false)}>{say('common.cancel')}</Action>
          </View>
        </View>
      ) : (
        <>
          <Text style={{ color: t.pencil }}>{say('room.freeAbout', { count: ids.length })}</Text>
          <Action style={{ alignSelf: 'flex-start' }} onPress={() => setAsking(true)}>
            {say('room.freePhotos')}
          </Action>
        </>
      )}
    </>
  );
}
