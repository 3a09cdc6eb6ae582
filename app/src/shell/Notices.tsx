import { View } from 'react-native';
import { Snackbar } from 'react-native-paper';
import { undo } from '../store/change';
import { noticed, refusedRead, type Notice } from '../store/session';
import { useApp, useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { Banner } from '../ui/Banner';
import { takeNewVersion } from '../work/installed';
import { sayCode, useSay, type Say, type WordKey } from '../ui/words/words';

/** How long a word at the bottom of the screen stays, ms. */
const noticeMs = 8000;

function inWords(say: Say, { code, values }: Notice): string {
  const filter = values?.filter;
  // A filter is named by its id until it is shown.
  const shown = filter === undefined ? values : { ...values, filter: sayCode(say, 'filter', { code: String(filter) }) };
  const [group, ...rest] = code.split('.');
  return rest.length ? sayCode(say, group!, { code: rest.join('.'), values: shown }) : say(code as WordKey, shown);
}

/** Files that could not be added, the word at the bottom of the screen with its undo, and a newer Libretto in another tab. */
export function Notices() {
  const say = useSay();
  const dispatch = useAppDispatch();
  const notice = useApp((s) => s.session.notice);
  const refused = useApp((s) => s.session.refused);
  const elsewhere = useApp((s) => s.session.outdated || s.session.newVersion === 'elsewhere');
  const waiting = useApp((s) => s.session.newVersion === 'waiting');
  return (
    <>
      {refused.length || elsewhere || waiting ? (
        <View
          role="region"
          aria-label={
            refused.length ? say('refused.title', { count: refused.length }) : say(elsewhere ? 'app.outdated' : 'app.newVersion')
          }
          style={{ position: 'absolute', left: 12, right: 12, bottom: 80, maxWidth: 560, zIndex: 5, gap: 8 }}
        >
          {waiting && !elsewhere ? (
            <Banner tone="attention" icon="update" title={say('app.newVersion')}>
              <Action onPress={takeNewVersion}>{say('app.reload')}</Action>
            </Banner>
          ) : null}
          {elsewhere ? (
            <Banner tone="attention" icon="update" title={say('app.outdated')}>
              <Action onPress={() => window.location.reload()}>{say('app.reload')}</Action>
            </Banner>
          ) : null}
          {refused.length ? (
            <Banner
              tone="failed"
              icon="image-broken-variant"
              title={say('refused.title', { count: refused.length })}
              detail={refused.map((r) => say('refused.line', { name: r.name, reason: sayCode(say, 'problem', r) })).join('\n')}
            >
              <Action onPress={() => dispatch(refusedRead())}>{say('common.dismiss')}</Action>
            </Banner>
          ) : null}
        </View>
      ) : null}
      <Snackbar
        visible={notice !== null}
        duration={noticeMs}
        onDismiss={() => dispatch(noticed(null))}
        wrapperStyle={{ bottom: 72 }}
        {...(notice?.undo && { action: { label: say('common.undo'), onPress: () => void dispatch(undo(notice.undo!)) } })}
      >
        {notice ? inWords(say, notice) : ''}
      </Snackbar>
    </>
  );
}
