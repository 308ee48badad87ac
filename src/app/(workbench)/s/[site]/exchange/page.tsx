import { ExchangeScreen } from "@/workbench/exchange/screen";

export default function Page() {
  return <ExchangeScreen />;
}
