import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { Text } from 'react-native-paper';
import type { Folder, Place, SendDetails } from '@libretto/model';
import { foldersOf, setFolderSends } from '../store/filing';
import { settingsId } from '../store/library';
import { useApp, useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { Choice } from '../ui/Choice';
import { Sheet } from '../ui/Sheet';
import { useTokens } from '../ui/theme';
import { useKeys } from '../ui/useKeys';
import { useSay } from '../ui/words/words';
import { detailsOf, PlaceDetails, type TypedFor } from './PlaceDetails';
import { placeIcons } from './placeIcons';
import { PlaceRow } from './PlaceRow';
import { learnPlaces } from './places';

/** Where a folder sends by itself, once there is such a folder. */
export function FolderSends({ folderId, onClose }: { folderId: string; onClose: () => void }) {
  const folder = useApp(foldersOf)[folderId];
  return folder ? <SendsSheet key={folderId} folder={folder} onClose={onClose} /> : null;
}

const typedOf = ({ to, cc, folder }: SendDetails): TypedFor => ({
  ...(to && { to: to.join(', ') }),
  ...(cc && { cc: cc.join(', ') }),
  ...(folder !== undefined && { folder }),
});

function SendsSheet({ folder, onClose }: { folder: Folder; onClose: () => void }) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const known = useApp((s) => s.library.place);
  const { addresses: used = [] } = useApp((s) => s.library.settings[settingsId]!);
  const [typed, setTyped] = useState<Record<string, TypedFor>>(() =>
    Object.fromEntries(Object.entries(folder.sendsTo ?? {}).map(([id, details]) => [id, typedOf(details)])),
  );
  const [unchecked, setUnchecked] = useState(folder.sendsUnchecked ?? false);
  useEffect(() => {
    void dispatch(learnPlaces());
  }, [dispatch]);
  const ids = Object.keys(typed);
  // What is there no more stands here until it is taken off.
  const places: (Place | string)[] = [...Object.values(known), ...ids.filter((id) => !known[id])];
  const details = Object.fromEntries(ids.map((id) => [id, known[id] ? detailsOf(known[id], typed[id]) : folder.sendsTo?.[id]]));
  const incomplete = Object.values(details).includes(null);
  const toggle = (id: string) =>
    setTyped(({ [id]: before, ...others }) => (before ? others : { ...others, [id]: typedOf(folder.sendsTo?.[id] ?? {}) }));
  const keep = () => {
    if (incomplete) return;
    void dispatch(setFolderSends(folder, { sendsTo: details as Record<string, SendDetails>, sendsUnchecked: unchecked }));
    onClose();
  };
  useKeys({ 'mod+enter': keep }, { over: true });
  return (
    <Sheet title={say('byItself.title', { name: folder.name })} onClose={onClose}>
      <Text style={{ color: t.pencil }}>{say('byItself.about')}</Text>
      <View role="group" aria-label={say('send.to')}>
        {places.map((place) =>
          typeof place === 'string' ? (
            <PlaceRow
              key={place}
              icon="alert-circle-outline"
              name={place}
              about=""
              problem={say('byItself.placeGone')}
              on
              onPress={() => toggle(place)}
            />
          ) : (
            <View key={place.id}>
              <PlaceRow
                icon={placeIcons[place.kind]}
                name={place.name}
                about={place.typed ? say('places.typed') : place.about}
                on={place.id in typed}
                onPress={() => toggle(place.id)}
              />
              {place.id in typed ? (
                <PlaceDetails
                  place={place}
                  typed={typed[place.id]!}
                  used={used}
                  onChange={(one) => setTyped((all) => ({ ...all, [place.id]: one }))}
                />
              ) : null}
            </View>
          ),
        )}
        {places.length ? null : <Text>{say('send.noPlaces')}</Text>}
      </View>
      {ids.length ? (
        <Choice
          label={say('byItself.when')}
          value={unchecked ? 'always' : 'checked'}
          options={[
            { value: 'checked', label: say('byItself.checked') },
            { value: 'always', label: say('byItself.always') },
          ]}
          onChange={(value) => setUnchecked(value === 'always')}
        />
      ) : null}
      <Action tall main disabled={incomplete} onPress={keep}>
        {say(ids.length || !folder.sendsTo ? 'common.done' : 'byItself.stop')}
      </Action>
      <Action onPress={onClose}>{say('common.cancel')}</Action>
    </Sheet>
  );
}
