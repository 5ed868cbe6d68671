"""The starter as it is wired: one circuit as data, behind drawings, lists, proof and a run."""
