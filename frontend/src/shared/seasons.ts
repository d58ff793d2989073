export const SEASONS = [
  { value: "summer", title: "Summer" },
  { value: "spring", title: "Spring" },
  { value: "autumn", title: "Autumn" },
  { value: "winter", title: "Winter" },
];
