import type { ErrorBoundaryProps } from 'expo-router';
import { useDeferredValue, useEffect, type ReactNode } from 'react';
import { useColorScheme, View } from 'react-native';
import { PaperProvider } from 'react-native-paper';
import { Provider } from 'react-redux';
import { begin } from '../shell/begin';
import { Crashed } from '../shell/Crashed';
import { Frame } from '../shell/Frame';
import { StartFailed } from '../shell/StartFailed';
import { settingsId } from '../store/library';
import { store, useApp } from '../store/store';
import { paperSettings } from '../ui/icons';
import { Spinner } from '../ui/Spinner';
import { darkTheme, lightTheme } from '../ui/theme';
import { language, useMoreWords, useSay } from '../ui/words/words';

function Painted({ children }: { children: ReactNode }) {
  const system = useColorScheme() === 'dark' ? 'dark' : 'light';
  const chosen = useApp((s) => s.library.settings[settingsId]!.theme);
  const shown = chosen === 'system' ? system : chosen;
  const theme = shown === 'dark' ? darkTheme : lightTheme;
  useEffect(() => {
    // What the browser draws itself, and what lies under the page.
    document.documentElement.style.colorScheme = shown;
    document.documentElement.style.background = document.body.style.background = theme.colors.background;
  }, [shown, theme]);
  return (
    <PaperProvider theme={theme} settings={paperSettings}>
      <View style={{ flex: 1, height: '100%', backgroundColor: theme.colors.background }}>{children}</View>
    </PaperProvider>
  );
}

function Themed({ children }: { children: ReactNode }) {
  return (
    <Provider store={store}>
      <Painted>{children}</Painted>
    </Provider>
  );
}

export function ErrorBoundary({ error, retry }: ErrorBoundaryProps) {
  return (
    <Themed>
      <Crashed error={error} retry={retry} />
    </Themed>
  );
}

// What is stored is fetched while the first screen is drawn.
begin();

export default function Layout() {
  return (
    <Themed>
      <Opened />
    </Themed>
  );
}

function Opened() {
  const say = useSay();
  // The shelf is drawn in pieces between which a finger is heard.
  const start = useDeferredValue(useApp((s) => s.session.start));
  const worded = useMoreWords();
  // The first screen has its words in English.
  if (language !== 'en' && !worded) return <Spinner style={{ flex: 1, justifyContent: 'center' }} />;
  if (start === 'ready') return <Frame />;
  if (start === 'opening') return <Spinner label={say('start.opening')} style={{ flex: 1, justifyContent: 'center' }} />;
  return <StartFailed failed={start.failed} said={start.said} />;
}
