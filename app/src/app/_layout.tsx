import { AtkinsonHyperlegible_400Regular } from '@expo-google-fonts/atkinson-hyperlegible/400Regular';
import { AtkinsonHyperlegible_700Bold } from '@expo-google-fonts/atkinson-hyperlegible/700Bold';
import { Fraunces_600SemiBold } from '@expo-google-fonts/fraunces/600SemiBold';
import MaterialCommunityIcons from '@expo/vector-icons/MaterialCommunityIcons';
import { useFonts } from 'expo-font';
import { useEffect } from 'react';
import { useColorScheme, View } from 'react-native';
import { ActivityIndicator, PaperProvider } from 'react-native-paper';
import { Provider } from 'react-redux';
import { Frame } from '../screens/frame/Frame';
import { offerDemo } from '../state/demo';
import { openLibrary } from '../state/open';
import { hurry } from '../state/outbox';
import { onWriteFailure, store, useApp } from '../state/store';
import { noticed, onlineChanged } from '../state/work';
import { darkTheme, lightTheme } from '../theme/theme';

let begun = false;

/** Once for the page's life: open what is stored, go on with unfinished work, keep a copy of the app for working offline. */
function begin(): void {
  if (begun) return;
  begun = true;
  onWriteFailure((error) => store.dispatch(noticed({ text: `This browser refuses to store changes: ${error.message}` })));
  void store.dispatch(openLibrary()).then(() => store.dispatch(offerDemo()));
  const online = () => {
    store.dispatch(onlineChanged(navigator.onLine));
    if (navigator.onLine) void store.dispatch(hurry());
  };
  window.addEventListener('online', online);
  window.addEventListener('offline', online);
  document.addEventListener('visibilitychange', () => document.visibilityState === 'visible' && void store.dispatch(hurry()));
  // The browser may throw stored photographs away when room is short, unless it has promised not to.
  void navigator.storage?.persist?.();
  if (process.env.NODE_ENV === 'production' && 'serviceWorker' in navigator)
    void navigator.serviceWorker.register('/sw.js').catch(() => {});
}

export default function Layout() {
  const dark = useColorScheme() === 'dark';
  const theme = dark ? darkTheme : lightTheme;
  const [ready] = useFonts({
    Fraunces_600SemiBold,
    AtkinsonHyperlegible_400Regular,
    AtkinsonHyperlegible_700Bold,
    ...MaterialCommunityIcons.font,
  });
  useEffect(begin, []);
  return (
    <Provider store={store}>
      <PaperProvider theme={theme}>
        <View style={{ flex: 1, height: '100%', backgroundColor: theme.colors.background }}>{ready ? <Opened /> : null}</View>
      </PaperProvider>
    </Provider>
  );
}

function Opened() {
  const open = useApp((s) => s.library.open);
  return open ? <Frame /> : <ActivityIndicator style={{ flex: 1 }} accessibilityLabel="Opening" />;
}
