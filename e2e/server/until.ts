/**
 * Waits until a state holds.
 * @param words what is wrong where it never does
 * @param within milliseconds; a machine that is busy with other work takes its time
 * @throws Error with these words when the time is over
 */
export const until = async (
  holds: () => boolean | Promise<boolean>,
  words: string,
  within = 240_000,
): Promise<void> => {
  const end = Date.now() + within
  while (!(await holds())) {
    if (Date.now() > end) throw new Error(words)
    await new Promise((resolve) => setTimeout(resolve, 50))
  }
}
