import { useEffect, useState } from 'react';
import { useForm, useWatch, type Resolver } from 'react-hook-form';
import { Pressable, ScrollView, View } from 'react-native';
import { Text } from 'react-native-paper';
import { mailLimitBytes, placeFormSchema, type Place, type PlaceForm, type TryAnswer } from '@libretto/model';
import { Action } from '../ui/Action';
import { Field, type FieldProps } from '../ui/Field';
import { Heading } from '../ui/Heading';
import { Over } from '../ui/Over';
import { SwitchRow } from '../ui/SwitchRow';
import { Sign } from '../ui/Sign';
import { useTokens } from '../ui/theme';
import { problemInWords } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { splitAddresses } from './addresses';
import { addPlace, changePlace, placeForm, tryForm, type PlaceProblem } from './placesApi';
import { placeIcons } from './placeIcons';
import { TryRows } from './TryRows';

/** What is typed, all as text. */
interface Typed {
  name: string;
  url: string;
  folder: string;
  bucket: string;
  region: string;
  from: string;
  to: string;
  host: string;
  port: string;
  secure: boolean;
  limitMb: string;
  username: string;
  password: string;
}
const empty: Typed = {
  name: '', url: '', folder: '', bucket: '', region: 'us-east-1', from: '', to: '', host: '', port: '465', secure: true, limitMb: String(mailLimitBytes / 1e6), username: '', password: '',
}; // prettier-ignore

const kinds: readonly Place['kind'][] = ['folder', 'bucket', 'mail'];

function formOf(kind: Place['kind'], typed: Typed): unknown {
  const { name, username, password } = typed;
  const common = { kind, name: name.trim(), username: username.trim(), ...(password && { password }) };
  if (kind === 'folder') return { ...common, url: typed.url.trim(), folder: typed.folder.trim() };
  if (kind === 'bucket')
    return {
      ...common,
      url: typed.url.trim(),
      bucket: typed.bucket.trim(),
      region: typed.region.trim(),
      folder: typed.folder.trim(),
    };
  return {
    ...common,
    from: typed.from.trim(),
    to: splitAddresses(typed.to),
    host: typed.host.trim(),
    port: Number(typed.port),
    secure: typed.secure,
    limit: Math.round(Number(typed.limitMb.replace(',', '.')) * 1e6),
  };
}

/** What a store calls some of them. */
const bucketLabels = { url: 'store', username: 'accessKey', password: 'secretKey' } as const;

/** The form's fields by those of the place that they make. */
const fieldOf: Readonly<Record<string, keyof Typed>> = { limit: 'limitMb' };

const resolverOf =
  (kind: Place['kind']): Resolver<Typed> =>
  (typed) => {
    const { error } = placeFormSchema.safeParse(formOf(kind, typed));
    if (!error) return { values: typed, errors: {} };
    const errors: Partial<Record<keyof Typed, { type: string }>> = {};
    for (const { path } of error.issues) errors[fieldOf[String(path[0])] ?? (String(path[0]) as keyof Typed)] ??= { type: 'bad' };
    return { values: {}, errors };
  };

export interface PlaceSheetProps {
  /** The one to change; null adds one. */
  place: Place | null;
  onClose: () => void;
  onKept: () => void;
}

/** Adds or changes a place: its kind first, then only what that kind needs, tried before it is kept if one likes. */
export function PlaceSheet({ place, onClose, onKept }: PlaceSheetProps) {
  const t = useTokens();
  const say = useSay();
  const [kind, setKind] = useState<Place['kind'] | null>(place?.kind ?? null);
  return (
    <Over low label={say(place ? 'places.changeTitle' : 'places.add')} maxWidth={560} onClose={onClose}>
      <ScrollView contentContainerStyle={{ padding: 16, gap: 12 }}>
        <Heading level={2} variant="titleLarge">
          {place ? say('places.changeTitle', { name: place.name }) : kind ? say(`places.addKind.${kind}`) : say('places.which')}
        </Heading>
        {kind ? (
          <Form kind={kind} place={place} onKept={onKept} />
        ) : (
          kinds.map((k) => (
            <Pressable
              key={k}
              role="button"
              onPress={() => setKind(k)}
              style={{
                flexDirection: 'row',
                gap: 14,
                alignItems: 'center',
                minHeight: 60,
                borderBottomWidth: 1,
                borderColor: t.hairline,
              }}
            >
              <Sign source={placeIcons[k]} size={26} color={t.wine} />
              <View style={{ flex: 1 }}>
                <Text variant="labelLarge">{say(`places.kind.${k}`)}</Text>
                <Text variant="bodySmall" style={{ color: t.pencil }}>
                  {say(`places.kindAbout.${k}`)}
                </Text>
              </View>
            </Pressable>
          ))
        )}
        <Action onPress={onClose}>{say('common.cancel')}</Action>
      </ScrollView>
    </Over>
  );
}

function Form({ kind, place, onKept }: { kind: Place['kind']; place: Place | null; onKept: () => void }) {
  const t = useTokens();
  const say = useSay();
  const [loaded, setLoaded] = useState(!place);
  const [hasPassword, setHasPassword] = useState(false);
  const [trying, setTrying] = useState<'now' | TryAnswer | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const { control, setValue, handleSubmit, reset, formState } = useForm<Typed>({
    defaultValues: empty,
    resolver: resolverOf(kind),
  });
  const typed = useWatch({ control }) as Typed;
  const told = (error: PlaceProblem) => setProblem(error.message || problemInWords(say, { code: error.code }));
  useEffect(() => {
    if (!place) return;
    placeForm(place.id).then((form) => {
      const { hasPassword: has, kind: _kind, ...rest } = form;
      setHasPassword(has);
      reset({
        ...empty,
        ...rest,
        ...('port' in rest && { port: String(rest.port), to: rest.to.join(', '), limitMb: String(rest.limit / 1e6) }),
        password: '',
      } as Typed);
      setLoaded(true);
    }, told);
    // Filled once.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [place?.id]);

  const attempt = handleSubmit(async (values) => {
    setProblem(null);
    setTrying('now');
    try {
      setTrying(await tryForm(formOf(kind, values) as PlaceForm, place?.id));
    } catch (error) {
      setTrying(null);
      told(error as PlaceProblem);
    }
  });
  const keep = handleSubmit(async (values) => {
    setProblem(null);
    const form = formOf(kind, values) as PlaceForm;
    try {
      await (place ? changePlace(place.id, form) : addPlace(form));
      onKept();
    } catch (error) {
      told(error as PlaceProblem);
    }
  });
  const line = (name: Exclude<keyof Typed, 'secure'>, more: Partial<FieldProps> = {}) => {
    const label = say(
      `places.field.${kind === 'bucket' && name in bucketLabels ? bucketLabels[name as keyof typeof bucketLabels] : name}`,
    );
    const bad = formState.errors[name] !== undefined;
    return (
      <View key={name} style={{ gap: 4 }}>
        <Text variant="bodySmall" style={{ color: t.pencil }}>
          {label}
        </Text>
        <Field
          label={label}
          placeholder=""
          value={typed[name]}
          onChangeText={(text) => setValue(name, text, { shouldValidate: formState.isSubmitted })}
          autoCapitalize="none"
          aria-invalid={bad}
          {...more}
        />
        {bad ? (
          <Text role="alert" variant="bodySmall" style={{ color: t.rust }}>
            {say(`places.bad.${name}`)}
          </Text>
        ) : null}
      </View>
    );
  };
  if (!loaded) return problem ? <Text role="alert">{problem}</Text> : null;
  return (
    <>
      {line('name', { maxLength: 80, autoFocus: true, autoCapitalize: 'sentences' })}
      {kind === 'folder' ? (
        <>
          {line('url', { inputMode: 'url', placeholder: say('places.example.url') })}
          {line('folder', { placeholder: say('places.example.folder') })}
        </>
      ) : kind === 'bucket' ? (
        <>
          {line('url', { inputMode: 'url', placeholder: say('places.example.store') })}
          {line('bucket')}
          {line('region')}
          {line('folder', { placeholder: say('places.example.folder') })}
        </>
      ) : (
        <>
          {line('from', { inputMode: 'email', placeholder: say('places.example.from') })}
          {line('to', { placeholder: say('places.toTyped') })}
          <View style={{ flexDirection: 'row', gap: 8 }}>
            <View style={{ flex: 3 }}>{line('host', { placeholder: say('places.example.host') })}</View>
            <View style={{ flex: 1 }}>{line('port', { inputMode: 'numeric', maxLength: 5 })}</View>
          </View>
          <SwitchRow
            label={say('places.secure')}
            about={say('places.secureAbout')}
            on={typed.secure}
            onPress={() => {
              setValue('secure', !typed.secure);
              // The ports of mail submission with TLS from the start and with STARTTLS (RFC 8314, 3.3; RFC 6409).
              if (typed.port === (typed.secure ? '465' : '587')) setValue('port', typed.secure ? '587' : '465');
            }}
          />
          {line('limitMb', { inputMode: 'decimal', maxLength: 6 })}
        </>
      )}
      {line('username', { autoComplete: 'off' })}
      {line('password', {
        secureTextEntry: true,
        autoComplete: 'off',
        placeholder: hasPassword ? say('places.passwordKept') : '',
      })}
      <Text variant="bodySmall" style={{ color: t.pencil }}>
        {say('places.passwordAbout')}
      </Text>
      {trying ? <TryRows kind={kind} answer={trying === 'now' ? null : trying} /> : null}
      {problem ? (
        <Text role="alert" style={{ color: t.rust }}>
          {problem}
        </Text>
      ) : null}
      <Action disabled={trying === 'now'} onPress={() => void attempt()}>
        {say('places.try')}
      </Action>
      <Action main tall disabled={formState.isSubmitting} onPress={() => void keep()}>
        {say('places.keep')}
      </Action>
    </>
  );
}
