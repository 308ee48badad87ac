import { ResultsScreen } from "@/workbench/results/screen";

export default function Page() {
  return <ResultsScreen />;
}
