import type { Metadata } from "next";
import { headers } from "next/headers";
import { ThemeProvider } from "next-themes";
import type { ReactNode } from "react";
import { Toaster } from "sonner";
import "./globals.css";

export const metadata: Metadata = {
  title: { default: "Node Ledger", template: "%s · Node Ledger" },
  description: "Plans the power side of machines with several motors.",
};

export default async function RootLayout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get("x-nonce") ?? undefined;
  return (
    <html lang="en" suppressHydrationWarning>
      <body>
        <ThemeProvider attribute="class" defaultTheme="light" enableSystem nonce={nonce} disableTransitionOnChange>
          {children}
          <Toaster position="bottom-left" toastOptions={{ className: "!rounded-none !border-ink !bg-sheet !text-ink !font-sans" }} />
        </ThemeProvider>
      </body>
    </html>
  );
}
