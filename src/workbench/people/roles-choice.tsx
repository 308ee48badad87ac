"use client";
import { t } from "@/core/messages/t";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Tooltip from "@mui/material/Tooltip";
import { roles, roleWords, type Role } from "@/core/people/roles";

/** Roles to switch on and off; one at least stays. */
export function RolesChoice({
  of,
  value,
  disabled,
  onChange,
}: {
  of: string;
  value: readonly Role[];
  disabled?: boolean;
  onChange: (roles: Role[]) => void;
}) {
  return (
    <ToggleButtonGroup
      size="small"
      value={value}
      {...(disabled ? { disabled } : {})}
      aria-label={t("Roles of {of}", { of })}
      onChange={(_event, next: Role[]) => next.length > 0 && onChange(roles.filter((role) => next.includes(role)))}
    >
      {roles.map((role) => (
        <ToggleButton key={role} value={role} aria-label={role}>
          <Tooltip title={roleWords[role]}>
            <span>{role}</span>
          </Tooltip>
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}
