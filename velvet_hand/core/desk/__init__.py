"""From a state to what the screens show: advice, view, log; and the door of a set-up for the layers above."""
