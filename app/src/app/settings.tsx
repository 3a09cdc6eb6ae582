import { Settings } from '../settings/Settings';

export default function SettingsRoute() {
  return <Settings />;
}
