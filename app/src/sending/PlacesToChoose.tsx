import { useEffect } from 'react';
import { View } from 'react-native';
import { Text } from 'react-native-paper';
import type { SendDetails } from '@libretto/model';
import { useApp, useAppDispatch } from '../store/store';
import { useSay } from '../ui/words/words';
import { detailsOf, PlaceDetails, type TypedFor } from './PlaceDetails';
import { placeIcons } from './placeIcons';
import { PlaceRow } from './PlaceRow';
import { learnPlaces } from './places';

export interface PlacesToChooseProps {
  /** What was typed for each place that is chosen, by its id. */
  typed: Readonly<Record<string, TypedFor>>;
  onToggle: (id: string) => void;
  onType: (id: string, typed: TypedFor) => void;
}

/** All places, with what those that are chosen want to know. */
export function PlacesToChoose({ typed, onToggle, onType }: PlacesToChooseProps) {
  const say = useSay();
  const dispatch = useAppDispatch();
  const known = useApp((s) => s.library.place);
  useEffect(() => {
    void dispatch(learnPlaces());
  }, [dispatch]);
  // What is there no more stands here until it is taken off.
  const gone = Object.keys(typed).filter((id) => !known[id]);
  const places = Object.values(known);
  return (
    <View role="group" aria-label={say('send.to')}>
      {places.map((place) => (
        <View key={place.id}>
          <PlaceRow
            icon={placeIcons[place.kind]}
            name={place.name}
            about={place.typed ? say('places.typed') : place.about}
            on={place.id in typed}
            onPress={() => onToggle(place.id)}
          />
          {typed[place.id] ? (
            <PlaceDetails place={place} typed={typed[place.id]!} onChange={(one) => onType(place.id, one)} />
          ) : null}
        </View>
      ))}
      {gone.map((id) => (
        <PlaceRow
          key={id}
          icon="alert-circle-outline"
          name={id}
          about=""
          problem={say('byItself.placeGone')}
          on
          onPress={() => onToggle(id)}
        />
      ))}
      {places.length || gone.length ? null : <Text>{say('send.noPlaces')}</Text>}
    </View>
  );
}

/** What goes into deliveries, place by place; null for one that is not enough yet. */
export function useDetails(typed: Readonly<Record<string, TypedFor>>): Record<string, SendDetails | null> {
  const known = useApp((s) => s.library.place);
  return Object.fromEntries(Object.entries(typed).flatMap(([id, t]) => (known[id] ? [[id, detailsOf(known[id], t)]] : [])));
}
