import { AuditScreen } from "@/workbench/audit/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/audit");

export default function Page() {
  return <AuditScreen />;
}
