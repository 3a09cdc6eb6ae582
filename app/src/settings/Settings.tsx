import { Link } from 'expo-router';
import { ScrollView } from 'react-native';
import { Text } from 'react-native-paper';
import type { Settings as SettingsRecord } from '@libretto/model';
import { changeSettings } from '../store/editing';
import { settingsId } from '../store/library';
import { useApp, useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { Choice } from '../ui/Choice';
import { Heading } from '../ui/Heading';
import { useTokens } from '../ui/theme';
import { useTitle } from '../ui/useTitle';
import { appLanguages, chooseLanguage, language, useSay } from '../ui/words/words';
import { Backup, NamePattern } from './lazy';
import { LetterKeys } from './LetterKeys';
import { ReadAhead } from './ReadAhead';
import { Room } from './Room';

type Theme = SettingsRecord['theme'];
const themes: readonly Theme[] = ['system', 'light', 'dark'];

/** What is chosen once, and what this device holds. */
export function Settings() {
  const t = useTokens();
  const say = useSay();
  useTitle(say('settings.title'));
  const settings = useApp((s) => s.library.settings[settingsId]!);
  return (
    <ScrollView contentContainerStyle={{ padding: 16, gap: 14, maxWidth: 620 }}>
      <Heading variant="headlineLarge">{say('settings.title')}</Heading>
      <Link href="/help" asChild>
        <Action icon="book-open-page-variant-outline" role="link" style={{ alignSelf: 'flex-start' }}>
          {say('help.title')}
        </Action>
      </Link>
      <Heading level={2} variant="titleLarge">
        {say('settings.look')}
      </Heading>
      <ThemeChoice settings={settings} />
      <Heading level={2} variant="titleLarge">
        {say('settings.language')}
      </Heading>
      <Choice
        label={say('settings.language')}
        value={language}
        options={appLanguages.map((value) => ({ value, label: say(`settings.languages.${value}`) }))}
        onChange={chooseLanguage}
      />
      <Heading level={2} variant="titleLarge">
        {say('settings.phone')}
      </Heading>
      <Text style={{ color: t.pencil }}>{say('settings.phoneAbout')}</Text>
      <Link href="/phone" asChild>
        <Action icon="cellphone-link" role="link" style={{ alignSelf: 'flex-start' }}>
          {say('settings.phone')}
        </Action>
      </Link>
      <Heading level={2} variant="titleLarge">
        {say('places.title')}
      </Heading>
      <Text style={{ color: t.pencil }}>{say('settings.placesAbout')}</Text>
      <Link href="/places" asChild>
        <Action icon="cloud-outline" role="link" style={{ alignSelf: 'flex-start' }}>
          {say('places.title')}
        </Action>
      </Link>
      <Heading level={2} variant="titleLarge">
        {say('names.title')}
      </Heading>
      <NamePattern />
      <Heading level={2} variant="titleLarge">
        {say('settings.words')}
      </Heading>
      <ReadAhead />
      <Heading level={2} variant="titleLarge">
        {say('settings.keys')}
      </Heading>
      <LetterKeys />
      <Heading level={2} variant="titleLarge">
        {say('settings.stored')}
      </Heading>
      <Room />
      <Heading level={2} variant="titleLarge">
        {say('backup.title')}
      </Heading>
      <Backup />
    </ScrollView>
  );
}

function ThemeChoice({ settings }: { settings: SettingsRecord }) {
  const say = useSay();
  const dispatch = useAppDispatch();
  return (
    <Choice
      label={say('settings.look')}
      value={settings.theme}
      options={themes.map((value) => ({ value, label: say(`settings.theme.${value}`) }))}
      onChange={(theme) => void dispatch(changeSettings(settings, { theme }))}
    />
  );
}
