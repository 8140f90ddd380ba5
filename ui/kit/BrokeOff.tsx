/** Said where an answer should stand that broke off, with the way to try again. */
export function BrokeOff({ what, again }: { what: string; again: () => void }) {
  return (
    <p role="alert" className="py-2 text-sm text-stop dark:text-fix">
      {what} could not be worked out. The plan is unharmed.{" "}
      <button type="button" className="link" onClick={again}>
        Try again
      </button>
    </p>
  );
}
