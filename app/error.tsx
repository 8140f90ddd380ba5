"use client";

export default function ErrorPage({ reset }: { error: Error; reset: () => void }) {
  return (
    <main className="p-8">
      <h1 className="text-lg font-bold">Something went wrong on this page</h1>
      <p className="mt-2">What you had saved is safe. Try again; if it happens twice, export the machine and report it.</p>
      <button type="button" className="link mt-4" onClick={reset}>
        Try again
      </button>
    </main>
  );
}
