import { ConnectScreen } from "@/workbench/connect/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const metadata = titleOf("/connect");

export default function Page() {
  return <ConnectScreen />;
}
