import { FindingsScreen } from "@/workbench/findings/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/findings");

export default function Page() {
  return <FindingsScreen />;
}
