import { View } from 'react-native';
import { Text } from 'react-native-paper';
import { changeSettings } from '../store/editing';
import { settingsId } from '../store/library';
import { useApp, useAppDispatch } from '../store/store';
import { Heading } from '../ui/Heading';
import { IconAction } from '../ui/IconAction';
import { useTokens } from '../ui/theme';
import { useSay } from '../ui/words/words';

/** The groups of addresses that are kept; nothing where there are none. They are made where addresses are typed. */
export function AddressGroups() {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const settings = useApp((s) => s.library.settings[settingsId]!);
  const { groups = [] } = settings;
  if (!groups.length) return null;
  return (
    <View style={{ gap: 4, marginTop: 8 }}>
      <Heading level={2} variant="titleMedium">
        {say('places.groups')}
      </Heading>
      <View role="list">
        {groups.map((group) => (
          <View
            key={group.name}
            role="listitem"
            style={{
              flexDirection: 'row',
              alignItems: 'center',
              gap: 8,
              paddingVertical: 6,
              borderTopWidth: 1,
              borderColor: t.hairline,
            }}
          >
            <View style={{ flex: 1, minWidth: 0 }}>
              <Text>{group.name}</Text>
              <Text variant="bodySmall" style={{ color: t.pencil }}>
                {group.addresses.join(', ')}
              </Text>
            </View>
            <IconAction
              icon="delete-outline"
              label={say('places.removeGroup', { name: group.name })}
              onPress={() => void dispatch(changeSettings(settings, { groups: groups.filter((g) => g !== group) }))}
            />
          </View>
        ))}
      </View>
    </View>
  );
}
