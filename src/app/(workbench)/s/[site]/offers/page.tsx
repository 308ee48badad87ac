import { OffersScreen } from "@/workbench/offers/screen";

export default function Page() {
  return <OffersScreen />;
}
