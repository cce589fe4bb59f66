import { everyPage, client, answer } from "./client";

/** All saved suppers, doughs and plans; lists come a page at a time. */
export const readSuppers = () =>
  everyPage((after) => client.GET("/api/timeline", { params: { query: { after } } }));
export const readDoughs = () =>
  everyPage((after) => client.GET("/api/dough", { params: { query: { after } } }));
export const readPlans = () =>
  everyPage((after) => client.GET("/api/plans", { params: { query: { after } } }));

export const readSupper = (supper_id: number) =>
  answer(client.GET("/api/timeline/{supper_id}", { params: { path: { supper_id } } }));
