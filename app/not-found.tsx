import Link from "next/link";

export default function NotFound() {
  return (
    <main className="p-8">
      <h1 className="text-lg font-bold">This page is not in the ledger</h1>
      <p className="mt-2">The machine may have been deleted in another window.</p>
      <Link className="link mt-4 inline-block" href="/">
        Back to the machines
      </Link>
    </main>
  );
}
