/** Takes a candidate into the plan. */
export function PlanIt({ name, onTake }: { name: string; onTake: () => void }) {
  return (
    <button type="button" className="link text-xs whitespace-nowrap" onClick={onTake} aria-label={`Plan ${name}`}>
      Plan it
    </button>
  );
}
