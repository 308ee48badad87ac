import { GoalsScreen } from "@/workbench/goals/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/goals");

export default function Page() {
  return <GoalsScreen />;
}
