"""The fuel train: what flows, what each part does to it, which trains solve, what is wrong."""
