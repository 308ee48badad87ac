import { ConnectScreen } from "@/workbench/connect/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/connect");

export default function Page() {
  return <ConnectScreen />;
}
