import { ConnectScreen } from "@/workbench/connect/screen";

export default function Page() {
  return <ConnectScreen />;
}
