"""The demo job: the made-up Pellowick Kiln Trail."""
