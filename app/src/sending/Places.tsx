import { useCallback, useEffect, useState } from 'react';
import { ScrollView, View } from 'react-native';
import { Text } from 'react-native-paper';
import type { Place, TryAnswer } from '@libretto/model';
import { placesLearned } from '../store/library';
import { noticed } from '../store/session';
import { useApp, useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { Heading } from '../ui/Heading';
import { MoreMenu } from '../ui/MoreMenu';
import { Sign } from '../ui/Sign';
import { Spinner } from '../ui/Spinner';
import { useTokens } from '../ui/theme';
import { corner } from '../ui/tokens';
import { useTitle } from '../ui/useTitle';
import { whenInWords } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { listPlaces, PlaceProblem, removePlace, tryPlace } from './placesApi';
import { placeIcons } from './placeIcons';
import { AddressGroups } from './AddressGroups';
import { SlipSheet } from './lazy';
import { PlaceSheet } from './PlaceSheet';
import { TryRows } from './TryRows';

/** Where documents can be sent to: what the server was set up with, and what is added here. */
export function Places() {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  useTitle(say('places.title'));
  const places = Object.values(useApp((s) => s.library.place));
  const [answer, setAnswer] = useState<'asking' | 'unreachable' | { mayChange: boolean }>('asking');
  const [sheet, setSheet] = useState<{ place: Place | null } | null>(null);
  const [slip, setSlip] = useState(false);
  const ask = useCallback(
    () =>
      listPlaces().then(
        (told) => {
          dispatch(placesLearned(told.places));
          setAnswer({ mayChange: told.mayChange ?? false });
        },
        () => setAnswer('unreachable'),
      ),
    [dispatch],
  );
  useEffect(() => void ask(), [ask]);
  const mayChange = typeof answer === 'object' && answer.mayChange;
  return (
    <ScrollView contentContainerStyle={{ padding: 16, gap: 12, maxWidth: 720 }}>
      <View style={{ flexDirection: 'row', alignItems: 'center', flexWrap: 'wrap', gap: 8 }}>
        <Heading variant="headlineLarge" style={{ flex: 1 }}>
          {say('places.title')}
        </Heading>
        <Action icon="printer-outline" onPress={() => setSlip(true)}>
          {say('slip.make')}
        </Action>
        {mayChange ? (
          <Action icon="plus" onPress={() => setSheet({ place: null })}>
            {say('places.add')}
          </Action>
        ) : null}
      </View>
      <Text style={{ color: t.pencil }}>{say('places.about')}</Text>
      {answer === 'asking' && !places.length ? <Spinner label={say('places.asking')} /> : null}
      {answer === 'unreachable' ? (
        <View role="alert" style={{ gap: 8 }}>
          <Text>{say('places.unreachable')}</Text>
          <Action onPress={() => void ask()} style={{ alignSelf: 'flex-start' }}>
            {say('common.retry')}
          </Action>
        </View>
      ) : null}
      {typeof answer === 'object' && !places.length ? <Text>{say(mayChange ? 'places.none' : 'send.noPlaces')}</Text> : null}
      <View role="list" style={{ gap: 12 }}>
        {places.map((place) => (
          <Leaf
            key={place.id}
            place={place}
            own={mayChange && place.own === true}
            onChange={() => setSheet({ place })}
            onRemoved={ask}
          />
        ))}
      </View>
      <AddressGroups />
      {typeof answer === 'object' && !mayChange ? (
        <Text variant="bodySmall" style={{ color: t.pencil }}>
          {say('places.notHere')}
        </Text>
      ) : null}
      {sheet ? (
        <PlaceSheet
          place={sheet.place}
          onClose={() => setSheet(null)}
          onKept={() => {
            setSheet(null);
            void ask();
          }}
        />
      ) : null}
      {slip ? <SlipSheet onClose={() => setSlip(false)} /> : null}
    </ScrollView>
  );
}

interface LeafProps {
  place: Place;
  own: boolean;
  onChange: () => void;
  onRemoved: () => Promise<void>;
}

/** One place: its kind, where it leads, when something last arrived there, and what came of trying it. */
function Leaf({ place, own, onChange, onRemoved }: LeafProps) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const [trying, setTrying] = useState<'now' | TryAnswer | null>(null);
  const [removing, setRemoving] = useState(false);
  const arrivedAt = useApp((s) =>
    Object.values(s.library.delivery).reduce<string | null>(
      (last, d) => (d.place.id === place.id && d.proof && d.proof.at > (last ?? '') ? d.proof.at : last),
      null,
    ),
  );
  const about = place.typed ? say('places.typed') : place.about === 'folder' ? '' : place.about;
  const attempt = () => {
    setTrying('now');
    tryPlace(place.id).then(setTrying, (error: PlaceProblem) =>
      setTrying({ done: [], failed: { reason: error.message || say('places.unreachable') } }),
    );
  };
  const remove = () =>
    removePlace(place.id).then(onRemoved, (error: PlaceProblem) =>
      dispatch(noticed({ code: 'notice.placeStays', values: { reason: error.message || say('problem.unreachable') } })),
    );
  return (
    <View
      role="listitem"
      testID="place"
      style={{ backgroundColor: t.leaf, borderWidth: 1, borderColor: t.hairline, borderRadius: corner, padding: 14, gap: 10 }}
    >
      <View style={{ flexDirection: 'row', gap: 14, alignItems: 'flex-start' }}>
        <Sign source={placeIcons[place.kind]} size={26} color={t.wine} />
        <View style={{ flex: 1, minWidth: 0 }}>
          <Heading level={2} variant="titleMedium">
            {place.name}
          </Heading>
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            {[say(`places.kind.${place.kind}`), ...(about ? [about] : [])].join(' · ')}
          </Text>
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            {arrivedAt ? say('places.arrived', { when: whenInWords(say, arrivedAt, new Date()) }) : say('places.nothingYet')}
          </Text>
        </View>
        <MoreMenu
          label={say('places.more', { name: place.name })}
          entries={[
            { icon: 'check', title: say('places.try'), onPress: attempt },
            ...(own
              ? [
                  { icon: 'pencil', title: say('places.change'), onPress: onChange },
                  { icon: 'delete-outline', title: say('places.remove'), onPress: () => setRemoving(true) },
                ]
              : []),
          ]}
        />
      </View>
      {trying ? <TryRows kind={place.kind} answer={trying === 'now' ? null : trying} /> : null}
      {removing ? (
        <View role="alert" style={{ gap: 8 }}>
          <Text>{say('places.removeAsk', { name: place.name })}</Text>
          <View style={{ flexDirection: 'row', gap: 8 }}>
            <Action main onPress={() => void remove()}>
              {say('places.remove')}
            </Action>
            <Action onPress={() => setRemoving(false)}>{say('common.cancel')}</Action>
          </View>
        </View>
      ) : null}
    </View>
  );
}
