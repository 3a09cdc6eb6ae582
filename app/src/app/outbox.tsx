import { Outbox } from '../sending/Outbox';

export default function OutboxRoute() {
  return <Outbox />;
}
