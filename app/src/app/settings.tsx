import { Settings } from '../settings/lazy';

export default function SettingsRoute() {
  return <Settings />;
}
