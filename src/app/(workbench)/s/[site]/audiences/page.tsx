import { AudiencesScreen } from "@/workbench/audiences/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/audiences");

export default function Page() {
  return <AudiencesScreen />;
}
