import { LensesScreen } from "@/workbench/lenses/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/lenses");

export default function Page() {
  return <LensesScreen />;
}
