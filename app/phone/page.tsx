import type { Metadata, Viewport } from "next";
import { connection } from "next/server";
import { PhoneApp } from "@/ui/phone/PhoneApp";

export const metadata: Metadata = { title: "At the machine" };
export const viewport: Viewport = { width: "device-width", initialScale: 1 };

/** The phone's page: everything it shows it asks for itself, so that it can go on while the network sleeps. */
export default async function PhonePage() {
  // Made for each request: its scripts bear the nonce of that answer.
  await connection();
  return <PhoneApp />;
}
