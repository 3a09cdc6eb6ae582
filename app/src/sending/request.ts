import type { Delivery, DeliveryRequest } from '@libretto/model';

/** What goes with a delivery's file to the server. */
export function requestOf(delivery: Delivery): DeliveryRequest {
  const { place, fileName, bytes, sha256, subject, message, to, cc, folder, again } = delivery;
  return {
    placeId: place.id,
    fileName,
    bytes,
    sha256,
    subject: subject || fileName.replace(/\.[a-z]+$/, '').slice(0, 200),
    message,
    ...(to && { to }),
    ...(cc && { cc }),
    ...(folder !== undefined && { folder }),
    ...(again && { again: true }),
  };
}

export const addressOf = (id: string) => `/api/deliveries/${id}`;
/** As headers of its upload; what it is its name says. */
export const headersOf = (delivery: Delivery): Record<string, string> => ({
  'content-type': 'application/octet-stream',
  'x-delivery': encodeURIComponent(JSON.stringify(requestOf(delivery))),
});
