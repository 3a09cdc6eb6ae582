import { useRouter } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { Text } from 'react-native-paper';
import type { Summary } from '@libretto/model';
import { restoreDocuments } from '../store/filing';
import { emptyBin } from '../store/open';
import { binDays } from '../store/purge';
import { useApp, useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { Heading } from '../ui/Heading';
import { IconAction } from '../ui/IconAction';
import { Over } from '../ui/Over';
import { useTokens } from '../ui/theme';
import { useTitle } from '../ui/useTitle';
import { VirtualList } from '../ui/VirtualList';
import { dayInWords } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { documentsInBin } from './shelfRows';

/** Documents that were deleted: they can be brought back for 30 days, or go for good now. */
export function Bin() {
  const t = useTokens();
  const say = useSay();
  const router = useRouter();
  const dispatch = useAppDispatch();
  useTitle(say('bin.title'));
  const all = useApp(documentsInBin);
  const [sure, setSure] = useState<readonly Summary[] | null>(null);
  const now = new Date();
  const daysLeft = (d: Summary) => Math.max(1, binDays - Math.floor((now.getTime() - Date.parse(d.deletedAt!)) / 86_400_000));
  return (
    <View style={{ flex: 1 }}>
      <View style={{ flexDirection: 'row', alignItems: 'center', paddingHorizontal: 4, minHeight: 56, gap: 4 }}>
        <IconAction icon="arrow-left" label={say('document.toShelf')} onPress={() => router.navigate('/')} />
        <Heading style={{ flex: 1 }} variant="titleLarge">
          {say('bin.title')}
        </Heading>
        {all.length ? (
          <Action onPress={() => setSure(all)} style={{ marginRight: 12 }}>
            {say('bin.empty')}
          </Action>
        ) : null}
      </View>
      <VirtualList
        label={say('bin.title')}
        style={{ flex: 1, minHeight: 0 }}
        count={all.length}
        keyOf={(i) => all[i]!.id}
        sizeOf={() => 84}
        header={
          <Text style={{ paddingHorizontal: 16, paddingBottom: 8, color: t.pencil }}>
            {all.length ? say('bin.about', { days: binDays }) : say('bin.nothing', { days: binDays })}
          </Text>
        }
        render={(i) => {
          const d = all[i]!;
          return (
            <View
              style={{
                flexDirection: 'row',
                alignItems: 'center',
                gap: 8,
                minHeight: 84,
                paddingLeft: 16,
                paddingRight: 4,
                borderBottomWidth: 1,
                borderColor: t.hairline,
              }}
            >
              <View style={{ flex: 1, minWidth: 0 }}>
                <Text variant="titleMedium" numberOfLines={1}>
                  {d.name}
                </Text>
                <Text variant="bodySmall" style={{ color: t.pencil }}>
                  {[
                    say('pages', { count: d.pages }),
                    say('bin.since', { day: dayInWords(say, d.deletedAt!, now) }),
                    say('bin.left', { count: daysLeft(d) }),
                  ].join(say('common.dot'))}
                </Text>
              </View>
              <Action
                onPress={() => void dispatch(restoreDocuments([d]))}
                accessibilityLabel={say('bin.restoreNamed', { name: d.name })}
              >
                {say('document.bringBack')}
              </Action>
              <IconAction icon="delete-outline" label={say('bin.deleteNamed', { name: d.name })} onPress={() => setSure([d])} />
            </View>
          );
        }}
      />
      {sure ? (
        <Over label={say('bin.sure', { count: sure.length })} maxWidth={420} onClose={() => setSure(null)}>
          <View style={{ padding: 20, gap: 14 }}>
            <Heading level={2} variant="titleLarge">
              {say('bin.sure', { count: sure.length })}
            </Heading>
            <Text>{say('bin.sureAbout')}</Text>
            <Action
              main
              onPress={() => {
                void dispatch(emptyBin(sure.map((d) => d.id)));
                setSure(null);
              }}
            >
              {say('bin.forGood')}
            </Action>
            <Action onPress={() => setSure(null)}>{say('common.cancel')}</Action>
          </View>
        </Over>
      ) : null}
    </View>
  );
}
