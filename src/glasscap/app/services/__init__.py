"""What works behind the window: threads, errands, memory, keeping work aside."""
