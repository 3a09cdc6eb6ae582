import { deliveryEventSchema, type DeliveryAnswer } from '@libretto/model';

/** Most deliveries followed over one connection: their ids go into its address. */
const most = 100;

/** Hears from the server what becomes of deliveries that it carries. The browser opens the connection again by itself when it breaks, and the server then says how all of them stand. */
export class Following {
  private source: EventSource | null = null;
  private ids = '';

  constructor(private readonly heard: (id: string, answer: DeliveryAnswer) => void) {}

  follow(ids: readonly string[]): void {
    const wanted = [...ids].sort().slice(0, most).join(',');
    if (wanted === this.ids && this.source?.readyState !== 2) return;
    this.stop();
    this.ids = wanted;
    if (!wanted || typeof EventSource === 'undefined') return;
    this.source = new EventSource(`/api/deliveries/events?ids=${wanted}`);
    this.source.onmessage = ({ data }) => {
      try {
        const { id, answer } = deliveryEventSchema.parse(JSON.parse(String(data)));
        this.heard(id, answer);
      } catch {
        // A newer server's, perhaps: what it means is asked at the next opening.
      }
    };
  }

  stop(): void {
    this.source?.close();
    this.source = null;
    this.ids = '';
  }
}
