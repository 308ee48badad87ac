import { ExchangeScreen } from "@/workbench/exchange/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/exchange");

export default function Page() {
  return <ExchangeScreen />;
}
