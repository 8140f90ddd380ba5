/** What work that can be followed step by step comes to, without stopping for its steps. */
export function finish<T>(steps: Generator<unknown, T>): T {
  for (let step = steps.next(); ; step = steps.next()) if (step.done) return step.value;
}
