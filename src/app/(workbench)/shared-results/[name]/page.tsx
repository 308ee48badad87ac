import { sharedResults } from "@/server/results";
import { SharedResults } from "@/workbench/results/shared-results";

export const metadata = { title: "Results", robots: { index: false } };

export default async function Page({ params }: { params: Promise<{ name: string }> }) {
  const found = await sharedResults((await params).name);
  if (!found)
    return (
      <main className="sharedresults detail">
        <p className="teaches wide">This link has ended, or never was one. Ask whoever sent it for another.</p>
      </main>
    );
  return <SharedResults {...found} />;
}
