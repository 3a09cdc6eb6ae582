import { Phone } from '../settings/lazy';

export default function PhoneRoute() {
  return <Phone />;
}
