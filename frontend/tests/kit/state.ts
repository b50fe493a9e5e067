/** Stands in for what the router knows of the page where one is shown alone. */
export const page = {
  url: new URL('http://shop/jobs/j1/fuel_path/ready'),
  params: { id: 'j1' } as Record<string, string>
};
