import { HealthScreen } from "@/workbench/health/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/health");

export default function Page() {
  return <HealthScreen />;
}
