import { redirect } from "next/navigation";

export default async function MachinePage({ params }: { params: Promise<{ id: string }> }) {
  redirect(`/m/${(await params).id}/feeds`);
}
