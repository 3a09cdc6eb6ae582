import { Outbox } from '../screens/outbox/Outbox';

export default function OutboxRoute() {
  return <Outbox />;
}
