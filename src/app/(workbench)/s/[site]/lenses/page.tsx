import { LensesScreen } from "@/workbench/lenses/screen";

export default function Page() {
  return <LensesScreen />;
}
