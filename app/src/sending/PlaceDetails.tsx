import { useEffect, useState } from 'react';
import { Pressable, View } from 'react-native';
import { Text } from 'react-native-paper';
import type { Delivery, Place } from '@libretto/model';
import { changeSettings } from '../store/editing';
import { settingsId } from '../store/library';
import { useApp, useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { Field } from '../ui/Field';
import { IconAction } from '../ui/IconAction';
import { Sign } from '../ui/Sign';
import { Spinner } from '../ui/Spinner';
import { useTokens } from '../ui/theme';
import { corner } from '../ui/tokens';
import { problemInWords } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { badAddresses, completed, completions, groupable, groupCompletions, splitAddresses, withGroup } from './addresses';
import { foldersOf, makeFolder, type PlaceProblem } from './placesApi';

/** What was typed for one place, as it was typed. */
export interface TypedFor {
  to?: string;
  cc?: string;
  folder?: string;
}

/** What goes into the delivery of it; null while it is not enough. */
export function detailsOf(place: Place, typed: TypedFor = {}): Pick<Delivery, 'to' | 'cc' | 'folder'> | null {
  if (place.kind !== 'mail') return typed.folder === undefined ? {} : { folder: typed.folder };
  if (!place.typed) return {};
  const [to, cc] = [splitAddresses(typed.to ?? ''), splitAddresses(typed.cc ?? '')];
  if (!to.length || badAddresses([...to, ...cc]).length) return null;
  return { to, ...(cc.length && { cc }) };
}

export interface PlaceDetailsProps {
  place: Place;
  typed: TypedFor;
  onChange: (typed: TypedFor) => void;
}

/** What a chosen place wants to know: addresses, or which folder. */
export function PlaceDetails({ place, typed, onChange }: PlaceDetailsProps) {
  const say = useSay();
  if (place.kind !== 'mail') return <FolderOf place={place} folder={typed.folder} onChange={(folder) => onChange({ ...typed, folder })} />; // prettier-ignore
  if (!place.typed) return null;
  return (
    <View style={{ gap: 8, paddingVertical: 8 }}>
      <Addresses label={say('send.mailTo')} value={typed.to ?? ''} onChange={(to) => onChange({ ...typed, to })} />
      <Addresses label={say('send.mailCc')} value={typed.cc ?? ''} onChange={(cc) => onChange({ ...typed, cc })} />
    </View>
  );
}

function Addresses({ label, value, onChange }: { label: string; value: string; onChange: (line: string) => void }) {
  const t = useTokens();
  const say = useSay();
  const { addresses: used = [], groups = [] } = useApp((s) => s.library.settings[settingsId]!);
  const [left, setLeft] = useState(false);
  const [inside, setInside] = useState(false);
  const bad = left ? badAddresses(splitAddresses(value)) : [];
  const offered = inside
    ? [
        ...groupCompletions(value, groups).map(({ name, addresses }) => ({ name: say('send.group', { name, count: addresses.length }), addresses })), // prettier-ignore
        ...completions(value, used).map((address) => ({ name: address, addresses: [address] })),
      ]
    : [];
  const several = groupable(value, groups);
  return (
    <View style={{ gap: 4 }}>
      <Field
        label={label}
        value={value}
        onChangeText={onChange}
        autoCapitalize="none"
        autoComplete="off"
        aria-invalid={bad.length > 0}
        onFocus={() => setInside(true)}
        onBlur={() => {
          setLeft(true);
          // Until a press on one of them has been one.
          setTimeout(() => setInside(false), 200);
        }}
      />
      {offered.length ? (
        <View role="list" aria-label={say('send.usedBefore')} style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 6 }}>
          {offered.map(({ name, addresses }) => (
            <Pressable
              key={name}
              role="button"
              onPress={() => onChange(completed(value, addresses))}
              style={{
                minHeight: 44,
                justifyContent: 'center',
                paddingHorizontal: 10,
                borderWidth: 1,
                borderColor: t.hairline,
                borderRadius: corner,
              }}
            >
              <Text variant="bodySmall">{name}</Text>
            </Pressable>
          ))}
        </View>
      ) : null}
      {bad.length ? (
        <Text role="alert" variant="bodySmall" style={{ color: t.rust }}>
          {say('send.badAddress', { address: bad[0]! })}
        </Text>
      ) : null}
      {several ? <KeepGroup addresses={several} /> : null}
    </View>
  );
}

/** Keeps the addresses of a line as a group, under a name. */
function KeepGroup({ addresses }: { addresses: readonly string[] }) {
  const say = useSay();
  const dispatch = useAppDispatch();
  const settings = useApp((s) => s.library.settings[settingsId]!);
  const [name, setName] = useState<string | null>(null);
  if (name === null)
    return (
      <Action icon="plus" onPress={() => setName('')} style={{ alignSelf: 'flex-start' }}>
        {say('send.keepGroup')}
      </Action>
    );
  const kept = name.trim().slice(0, 60);
  const keep = () =>
    kept &&
    void dispatch(
      changeSettings(settings, { groups: withGroup(settings.groups ?? [], { name: kept, addresses: [...addresses] }) }),
    );
  return (
    <View style={{ flexDirection: 'row', alignItems: 'center', gap: 8 }}>
      <Field
        label={say('send.groupName')}
        value={name}
        onChangeText={setName}
        onSubmitEditing={keep}
        autoFocus
        style={{ flex: 1 }}
      />
      <Action main disabled={!kept} onPress={keep}>
        {say('common.save')}
      </Action>
    </View>
  );
}

/** The folder that it goes to, and the way to another one. */
function FolderOf({ place, folder, onChange }: { place: Place; folder: string | undefined; onChange: (folder: string) => void }) {
  const t = useTokens();
  const say = useSay();
  const [looking, setLooking] = useState(false);
  if (looking)
    return (
      <FolderChooser
        place={place}
        start={folder}
        onClose={() => setLooking(false)}
        onChosen={(chosen) => {
          onChange(chosen);
          setLooking(false);
        }}
      />
    );
  return (
    <View style={{ flexDirection: 'row', alignItems: 'center', gap: 8, paddingVertical: 4, flexWrap: 'wrap' }}>
      {folder !== undefined ? (
        <Text variant="bodySmall" style={{ color: t.pencil, flexShrink: 1 }}>
          {say('send.intoFolder', { folder: folder ? folder.split('/').join(' / ') : place.name })}
        </Text>
      ) : null}
      <Action icon="folder-outline" onPress={() => setLooking(true)}>
        {say('send.otherFolder')}
      </Action>
    </View>
  );
}

interface FolderChooserProps {
  place: Place;
  start: string | undefined;
  onChosen: (folder: string) => void;
  onClose: () => void;
}

/** Looks into the folders of a place, and makes one on the spot. */
function FolderChooser({ place, start, onChosen, onClose }: FolderChooserProps) {
  const t = useTokens();
  const say = useSay();
  const [at, setAt] = useState<string | undefined>(start);
  const [shown, setShown] = useState<{ folder: string; folders: string[] } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [name, setName] = useState('');
  useEffect(() => {
    let gone = false;
    foldersOf(place.id, at).then(
      (told) => {
        if (gone) return;
        setShown(told);
        setProblem(null);
      },
      (error: PlaceProblem) => !gone && setProblem(error.message || problemInWords(say, { code: error.code })),
    );
    return () => void (gone = true);
  }, [place.id, at, say]);
  const folder = shown?.folder ?? at ?? '';
  const parts = folder.split('/').filter(Boolean);
  const make = async () => {
    const made = [...parts, name.trim().replace(/\//g, '-')].join('/');
    try {
      await makeFolder(place.id, made);
      setName('');
      setAt(made);
    } catch (error) {
      setProblem((error as PlaceProblem).message || problemInWords(say, { code: (error as PlaceProblem).code }));
    }
  };
  return (
    <View
      role="group"
      aria-label={say('send.otherFolder')}
      style={{ borderWidth: 1, borderColor: t.hairline, borderRadius: corner, padding: 10, gap: 8, marginVertical: 8 }}
    >
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 4 }}>
        <IconAction
          icon="arrow-left"
          label={say('send.upFolder')}
          disabled={!parts.length}
          onPress={() => setAt(parts.slice(0, -1).join('/'))}
        />
        <Text variant="labelLarge" style={{ flex: 1 }}>
          {[place.name, ...parts].join(' / ')}
        </Text>
      </View>
      {problem ? (
        <Text role="alert" style={{ color: t.rust }}>
          {problem}
        </Text>
      ) : shown ? (
        <View role="list" style={{ maxHeight: 220, overflow: 'scroll' }}>
          {shown.folders.map((f) => (
            <Pressable
              key={f}
              role="button"
              aria-label={say('send.openFolder', { name: f })}
              onPress={() => setAt([...parts, f].join('/'))}
              style={{
                flexDirection: 'row',
                gap: 10,
                alignItems: 'center',
                minHeight: 44,
                borderBottomWidth: 1,
                borderColor: t.hairline,
              }}
            >
              <Sign source="folder-outline" size={20} color={t.pencil} />
              <Text style={{ flex: 1 }}>{f}</Text>
              <Sign source="chevron-right" size={20} color={t.pencil} />
            </Pressable>
          ))}
          {shown.folders.length ? null : (
            <Text variant="bodySmall" style={{ color: t.pencil }}>
              {say('send.noFolders')}
            </Text>
          )}
        </View>
      ) : (
        <Spinner label={say('places.asking')} />
      )}
      <View style={{ flexDirection: 'row', gap: 8 }}>
        <Field label={say('send.newFolder')} value={name} onChangeText={setName} maxLength={100} style={{ flex: 1 }} />
        <Action disabled={!name.trim() || !shown} onPress={() => void make()}>
          {say('send.makeFolder')}
        </Action>
      </View>
      <View style={{ flexDirection: 'row', gap: 8 }}>
        <Action main disabled={!shown} onPress={() => onChosen(folder)}>
          {say('send.thisFolder')}
        </Action>
        <Action onPress={onClose}>{say('common.cancel')}</Action>
      </View>
    </View>
  );
}
