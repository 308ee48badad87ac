"use client";
import { zodResolver } from "@hookform/resolvers/zod";
import { useForm as useHookForm, type DefaultValues, type FieldValues, type UseFormReturn } from "react-hook-form";
import * as z from "zod";
import { t } from "@/core/messages/t";

/**
 * A form of values that begin so and are judged by a shape, whose messages are shown at their fields.
 *
 * @param early judged while it is typed, too; else once it was sent
 */
export const useForm = <Values extends FieldValues>(
  shape: z.ZodType<Values, Values>,
  begin: NoInfer<Values>,
  early = false,
): UseFormReturn<Values> =>
  useHookForm<Values>({
    resolver: zodResolver(shape),
    defaultValues: begin as DefaultValues<Values>,
    mode: early ? "onChange" : "onSubmit",
  });

/** A text that must say something, without the spaces around it. */
export const saying = (missing: () => string): z.ZodString => z.string().trim().min(1, { error: missing });

/** The name of something. */
export const named = (): z.ZodString => saying(() => t("Give it a name"));
