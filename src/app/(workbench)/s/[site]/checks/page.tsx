import { ChecksScreen } from "@/workbench/checks/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/checks");

export default function Page() {
  return <ChecksScreen />;
}
