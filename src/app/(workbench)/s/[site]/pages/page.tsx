import { PageScreen } from "@/workbench/page/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/pages");

export default function Page() {
  return <PageScreen />;
}
