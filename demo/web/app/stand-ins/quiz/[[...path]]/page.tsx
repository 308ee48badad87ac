import { notFound } from "next/navigation";
import { Quiz } from "../../../../../stand-ins/quiz";

export const dynamic = "force-dynamic";

export default async function Page({ params }: { params: Promise<{ path?: string[] }> }) {
  if ((await params).path) notFound();
  return <Quiz />;
}
