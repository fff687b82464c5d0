"""Work off the interface thread: threads, pools, processes, and the ticket that carries progress and Cancel."""
