#!/usr/bin/python3
"""WebKitGTK as WebKitWebDriver drives it, with what MiniBrowser's automation lacks: a profile that stays, a phone's size, the mock camera, and its picture on SIGUSR1."""
import os
import signal

import gi

gi.require_version("Gtk", "3.0")
gi.require_version("WebKit2", "4.1")
from gi.repository import Gdk, GLib, Gtk, WebKit2  # noqa: E402

profile = os.environ["WK_PROFILE"]
width, height = (int(n) for n in os.environ.get("WK_SIZE", "390x844").split("x"))
if os.environ.get("WK_PRIVATE") == "1":
    context = WebKit2.WebContext.new_ephemeral()
else:
    manager = WebKit2.WebsiteDataManager(base_data_directory=profile + "/data", base_cache_directory=profile + "/cache")
    context = WebKit2.WebContext(website_data_manager=manager)
context.set_automation_allowed(True)


def allow(_view, request):
    request.allow()
    return True


def create(_session):
    settings = WebKit2.Settings()
    settings.set_enable_media_stream(True)
    settings.set_enable_mock_capture_devices(True)
    settings.set_enable_write_console_messages_to_stdout(True)
    settings.set_hardware_acceleration_policy(WebKit2.HardwareAccelerationPolicy.NEVER)
    view = WebKit2.WebView(web_context=context, settings=settings, is_controlled_by_automation=True)
    view.connect("permission-request", allow)
    window = Gtk.Window()
    window.set_decorated(False)
    window.set_default_size(width, height)
    window.add(view)
    window.show_all()
    view.grab_focus()

    def picture(*_):
        shown = view.get_window()
        image = Gdk.pixbuf_get_from_window(shown, 0, 0, shown.get_width(), shown.get_height())
        image.savev(profile + "/shot.tmp", "png", [], [])
        os.rename(profile + "/shot.tmp", profile + "/shot.png")
        return True

    GLib.unix_signal_add(GLib.PRIORITY_DEFAULT, signal.SIGUSR1, picture)
    with open(profile + "/pid", "w") as file:
        file.write(str(os.getpid()))
    window.connect("destroy", lambda *_: Gtk.main_quit())
    return view


def started(_context, session):
    info = WebKit2.ApplicationInfo()
    info.set_name("MiniBrowser")
    info.set_version(2, 50, 6)
    session.set_application_info(info)
    session.connect("create-web-view", create)


context.connect("automation-started", started)
Gtk.main()
