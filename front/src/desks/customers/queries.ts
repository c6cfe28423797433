/** What the customers' screens ask. */
import { queryOptions } from "@tanstack/react-query";
import { api, answerOf } from "../../api/client";

export const people = (text: string) =>
  queryOptions({
    queryKey: ["customers", "found", text],
    queryFn: ({ signal }) => answerOf(api.GET("/api/customers", { params: { query: { text } }, signal })),
    placeholderData: (before) => before,
  });

export const person = (id: number) =>
  queryOptions({
    queryKey: ["customers", id],
    queryFn: () => answerOf(api.GET("/api/customers/{customer_id}", { params: { path: { customer_id: id } } })),
  });
