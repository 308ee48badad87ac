import { t } from "@/core/messages/t";
import { sharedResults } from "@/server/results";
import { SharedResults } from "@/workbench/results/shared-results";

export const generateMetadata = () => ({ title: t("Results"), robots: { index: false } });

interface Props {
  params: Promise<{ name: string }>;
  searchParams: Promise<{ by?: string | string[] }>;
}

export default async function Page({ params, searchParams }: Props) {
  const { name } = await params;
  const { by } = await searchParams;
  const found = await sharedResults(name, typeof by === "string" ? by : undefined);
  if (!found)
    return (
      <main className="sharedresults detail">
        <p className="teaches wide">{t("This link has ended, or never was one. Ask whoever sent it for another.")}</p>
      </main>
    );
  return <SharedResults name={name} {...found} />;
}
