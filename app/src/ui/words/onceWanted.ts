/** What takes some milliseconds to make, as Intl's formats do: made when it is first wanted. */
export const onceWanted = <T>(make: () => T): (() => T) => {
  let made: T | undefined;
  return () => (made ??= make());
};
