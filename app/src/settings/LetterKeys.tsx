import { changeSettings } from '../store/editing';
import { settingsId } from '../store/library';
import { useApp, useAppDispatch } from '../store/store';
import { SwitchRow } from '../ui/SwitchRow';
import { useSay } from '../ui/words/words';

/** Whether single letters act as keys (WCAG 2.2, 2.1.4). */
export function LetterKeys() {
  const say = useSay();
  const dispatch = useAppDispatch();
  const settings = useApp((s) => s.library.settings[settingsId]!);
  const on = settings.letterKeys;
  return (
    <SwitchRow
      label={say('keys.letters')}
      about={say('keys.lettersAbout')}
      on={on}
      onPress={() => void dispatch(changeSettings(settings, { letterKeys: !on }))}
    />
  );
}
