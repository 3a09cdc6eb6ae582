import { configure, render } from '@testing-library/react';
import type { ReactElement } from 'react';
import { PaperProvider } from 'react-native-paper';
import { Provider } from 'react-redux';
import { paperSettings } from '../ui/icons';
import { lightTheme } from '../ui/theme';
import { aStore } from './store';
import type { AnyRecord } from '../store/records';

// What is hidden is asked for by name where it matters; looking at every style takes most of a test's time.
configure({ defaultHidden: true });

/** Shows a part of the app over a store with these records; `again` shows it anew, as after a change of its own props. */
export async function show(part: ReactElement, records: readonly AnyRecord[] = []) {
  const store = await aStore(records);
  const within = (element: ReactElement) => (
    <Provider store={store}>
      <PaperProvider theme={lightTheme} settings={paperSettings}>
        {element}
      </PaperProvider>
    </Provider>
  );
  const shown = render(within(part));
  return { store, ...shown, again: (next: ReactElement) => shown.rerender(within(next)) };
}
