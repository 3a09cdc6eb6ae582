import { Phone } from '../settings/Phone';

export default function PhoneRoute() {
  return <Phone />;
}
