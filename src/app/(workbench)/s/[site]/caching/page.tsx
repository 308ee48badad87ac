import { CachingScreen } from "@/workbench/caching/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/caching");

export default function Page() {
  return <CachingScreen />;
}
