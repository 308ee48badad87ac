import { ResultsScreen } from "@/workbench/results/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/results");

export default function Page() {
  return <ResultsScreen />;
}
