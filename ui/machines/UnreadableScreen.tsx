import Link from "next/link";
import type { Problem } from "@/core/machine/check";

interface Props {
  id: string;
  name: string;
  problem: Problem;
}

/** In place of a machine whose stored document this version cannot read. */
export function UnreadableScreen({ id, name, problem }: Props) {
  return (
    <main className="max-w-[640px] p-8">
      <h1 className="text-lg font-bold">{name} cannot be read by this version</h1>
      <p className="mt-2">
        <span className="fig font-semibold break-all">{problem.path}</span>: expected {problem.expected}. Nothing was changed: the machine
        stays as it is stored, and its file can be taken out.
      </p>
      <p className="mt-4 flex gap-6">
        <a className="link" href={`/api/machines/${id}/export`} download>
          Export it as it is
        </a>
        <Link className="link" href="/">
          Back to the machines
        </Link>
      </p>
    </main>
  );
}
