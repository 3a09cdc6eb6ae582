import { Outbox } from '../sending/lazy';

export default function OutboxRoute() {
  return <Outbox />;
}
