"""What is seen with no job."""
