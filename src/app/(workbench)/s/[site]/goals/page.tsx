import { GoalsScreen } from "@/workbench/goals/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const metadata = titleOf("/goals");

export default function Page() {
  return <GoalsScreen />;
}
