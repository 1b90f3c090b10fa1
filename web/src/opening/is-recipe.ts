/** Whether a JSON file is a recipe: only then it becomes a story at once. */
export const isRecipe = async (file: File): Promise<boolean> =>
  /\.json$/i.test(file.name) &&
  file.size < 20e6 &&
  /"fabula"\s*:/.test((await file.slice(0, 4000).text()).slice(0, 4000))
