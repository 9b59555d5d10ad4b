"""The window itself: header, weigh slip, verdict line, menus, brief."""
