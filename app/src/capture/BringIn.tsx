import { useEffect, useRef } from 'react';
import { View } from 'react-native';
import { Text } from 'react-native-paper';
import { useApp, useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { DropArea } from '../ui/DropArea';
import { Heading } from '../ui/Heading';
import { Progress } from '../ui/Progress';
import { Stitches } from '../ui/Stitches';
import { useTokens } from '../ui/theme';
import { corner } from '../ui/tokens';
import { useTitle } from '../ui/useTitle';
import { useSay } from '../ui/words/words';
import { cancelJob, jobOf } from '../work/jobs';
import { onOpenedFiles, sharedFiles } from '../work/shared';
import { useBringIn } from '../work/useBringIn';

/** Bringing in photographs: from files, by drop or paste, or through the phone's own camera. */
export function BringIn({ into }: { into: string | null }) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  useTitle(say('bringIn.title'));
  const add = useBringIn(into);
  useEffect(() => {
    // What another app has shared, or the system opens with this one.
    void sharedFiles().then(async ({ files, forget }) => {
      if (!files.length) return;
      await add(files);
      await forget();
    });
    onOpenedFiles((files) => void add(files));
  }, [add]);
  const camera = useRef<HTMLInputElement>(null);
  const importing = useApp((s) => jobOf(s, 'import', into ?? undefined));
  const progress = importing ? say('bringIn.saved', { done: importing.done, total: importing.total }) : '';
  return (
    <DropArea onFiles={add}>
      {(open) => (
        <View style={{ flex: 1, padding: 16, gap: 16 }}>
          <Heading variant="headlineMedium">{say('bringIn.title')}</Heading>
          <View
            style={{
              flex: 1,
              maxHeight: 380,
              borderWidth: 1,
              borderColor: t.hairline,
              borderRadius: corner,
              backgroundColor: t.leaf,
              alignItems: 'center',
              justifyContent: 'center',
              padding: 24,
              gap: 14,
            }}
          >
            <Text variant="titleMedium" style={{ textAlign: 'center' }}>
              {say('bringIn.each')}
            </Text>
            <View style={{ width: 180 }}>
              <Stitches color={t.wine} />
            </View>
            <Text style={{ textAlign: 'center', color: t.pencil }}>{say('bringIn.how')}</Text>
            {importing ? (
              <View role="status" style={{ width: '100%', gap: 8 }}>
                <Progress value={importing.done / Math.max(1, importing.total)} label={progress} />
                <View style={{ flexDirection: 'row', justifyContent: 'space-between', alignItems: 'center' }}>
                  <Text>{progress}</Text>
                  <Action onPress={() => dispatch(cancelJob(importing.id))}>{say('common.stop')}</Action>
                </View>
              </View>
            ) : null}
          </View>
          <View style={{ gap: 10 }}>
            <Action main tall icon="image-plus" onPress={open}>
              {say('bringIn.choose')}
            </Action>
            <Action tall icon="camera-outline" onPress={() => camera.current?.click()}>
              {say('bringIn.one')}
            </Action>
          </View>
          <input
            ref={camera}
            type="file"
            accept="image/*"
            capture="environment"
            hidden
            aria-label={say('bringIn.take')}
            onChange={(event) => {
              void add([...(event.target.files ?? [])]);
              event.target.value = '';
            }}
          />
        </View>
      )}
    </DropArea>
  );
}
