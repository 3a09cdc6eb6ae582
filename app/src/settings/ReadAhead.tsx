import { changeSettings } from '../store/editing';
import { settingsId } from '../store/library';
import { useApp, useAppDispatch } from '../store/store';
import { SwitchRow } from '../ui/SwitchRow';
import { useSay } from '../ui/words/words';
import { readsAhead } from '../work/reading';

/** Whether pages are read before anybody asks for their words. */
export function ReadAhead() {
  const say = useSay();
  const dispatch = useAppDispatch();
  const settings = useApp((s) => s.library.settings[settingsId]!);
  const on = readsAhead(settings);
  return (
    <SwitchRow
      label={say('settings.readAhead')}
      about={say(on ? 'settings.readAheadAbout' : 'settings.readWhenAsked')}
      on={on}
      onPress={() => void dispatch(changeSettings(settings, { readAhead: !on }))}
    />
  );
}
