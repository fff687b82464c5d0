"""From a job to a picture: plan, stages, picture."""
