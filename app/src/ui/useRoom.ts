import { useEffect, useState } from 'react';

export interface Room {
  /** Bytes that this app takes, and may take. */
  used: number;
  allowed: number;
  /** Little is left: it is time to do something about it. */
  short: boolean;
}

/** From here on room is short: a run of forty photographs, or a fifth of what is allowed. */
const leftBytes = 400_000_000;
const leftShare = 0.2;
const againMs = 60_000;

/** What the browser says of its room (Storage Standard, `estimate`); null where it does not. Asked anew every minute, and when `turn` changes. */
export function useRoom(turn = 0): Room | null {
  const [room, setRoom] = useState<Room | null>(null);
  useEffect(() => {
    let gone = false;
    const ask = () =>
      void navigator.storage?.estimate?.().then(
        ({ usage = 0, quota = 0 }) => {
          if (gone || !quota) return;
          const left = quota - usage;
          setRoom({ used: usage, allowed: quota, short: left < leftBytes && left < leftShare * quota });
        },
        () => {},
      );
    ask();
    const timer = setInterval(ask, againMs);
    return () => {
      gone = true;
      clearInterval(timer);
    };
  }, [turn]);
  return room;
}
