"""The media server as TVs find it (UPnP AV MediaServer:1): it is announced, and tells what there is; it only shows.

The files themselves are given by the pages for devices. Nothing is sent to addresses that somebody names, so events are
taken note of and not sent: whoever wants to know what is new looks again.
"""

# no annotations from the future: the library reads the types of arguments
import time
import xml.etree.ElementTree as ET
from collections.abc import Mapping
from importlib.metadata import version
from typing import Any
from uuid import UUID

from asgiref.sync import sync_to_async
from async_upnp_client.const import DeviceInfo, ServiceInfo, StateVariableTypeInfo
from async_upnp_client.exceptions import UpnpActionError
from async_upnp_client.server import (
    EventSubscriber,
    UpnpServer,
    UpnpServerDevice,
    UpnpServerService,
    callable_action,
    create_event_var,
    create_state_var,
)

from rheon.core.formats import CONTAINERS, protocol_info

from .directory import browse

NO_SUCH_OBJECT = 701
UPDATE_ID = 1
GIVEN = sorted({protocol_info(f".{container.extension}") for container in CONTAINERS.values()})


def _service(name: str) -> ServiceInfo:
    return ServiceInfo(
        service_id=f"urn:upnp-org:serviceId:{name}",
        service_type=f"urn:schemas-upnp-org:service:{name}:1",
        control_url=f"/{name}/control",
        event_sub_url=f"/{name}/events",
        scpd_url=f"/{name}.xml",
        xml=ET.Element("service"),
    )


class _Service(UpnpServerService):
    async def async_send_events(self, subscriber: EventSubscriber | None = None) -> None:
        """Sends none: see above."""


class _Directory(_Service):
    """ContentDirectory:1; arguments are named by the standard, section 2.7."""

    SERVICE_DEFINITION = _service("ContentDirectory")
    STATE_VARIABLE_DEFINITIONS: Mapping[str, StateVariableTypeInfo] = {
        "A_ARG_TYPE_ObjectID": create_state_var("string"),
        "A_ARG_TYPE_Result": create_state_var("string"),
        "A_ARG_TYPE_BrowseFlag": create_state_var("string", allowed=["BrowseMetadata", "BrowseDirectChildren"]),
        "A_ARG_TYPE_Filter": create_state_var("string"),
        "A_ARG_TYPE_SortCriteria": create_state_var("string"),
        "A_ARG_TYPE_Index": create_state_var("ui4"),
        "A_ARG_TYPE_Count": create_state_var("ui4"),
        "A_ARG_TYPE_UpdateID": create_state_var("ui4"),
        "SearchCapabilities": create_state_var("string", default=""),
        "SortCapabilities": create_state_var("string", default=""),
        "SystemUpdateID": create_event_var("ui4", default=str(UPDATE_ID)),
    }
    base = ""

    @callable_action(
        "Browse",
        in_args={
            "ObjectID": "A_ARG_TYPE_ObjectID",
            "BrowseFlag": "A_ARG_TYPE_BrowseFlag",
            "Filter": "A_ARG_TYPE_Filter",
            "StartingIndex": "A_ARG_TYPE_Index",
            "RequestedCount": "A_ARG_TYPE_Count",
            "SortCriteria": "A_ARG_TYPE_SortCriteria",
        },
        out_args={
            "Result": "A_ARG_TYPE_Result",
            "NumberReturned": "A_ARG_TYPE_Count",
            "TotalMatches": "A_ARG_TYPE_Count",
            "UpdateID": "A_ARG_TYPE_UpdateID",
        },
    )
    async def browse(  # noqa: PLR0913, PLR0917  the standard's arguments, by its names
        self, ObjectID: str, BrowseFlag: str, Filter: str, StartingIndex: int, RequestedCount: int, SortCriteria: str
    ) -> dict[str, Any]:
        """Filters and sorting are taken and not followed: everything is told, in the order of the names."""
        page = await sync_to_async(browse)(
            ObjectID,
            self.base,
            children=BrowseFlag == "BrowseDirectChildren",
            start=StartingIndex,
            most=RequestedCount,
        )
        if page is None:
            raise UpnpActionError(error_code=NO_SUCH_OBJECT, error_desc="No such object")
        return {
            "Result": page.text,
            "NumberReturned": page.count,
            "TotalMatches": page.total,
            "UpdateID": UPDATE_ID,
        }

    @callable_action("GetSearchCapabilities", in_args={}, out_args={"SearchCaps": "SearchCapabilities"})
    async def search_capabilities(self) -> dict[str, Any]:
        return {"SearchCaps": self.state_variable("SearchCapabilities")}

    @callable_action("GetSortCapabilities", in_args={}, out_args={"SortCaps": "SortCapabilities"})
    async def sort_capabilities(self) -> dict[str, Any]:
        return {"SortCaps": self.state_variable("SortCapabilities")}

    @callable_action("GetSystemUpdateID", in_args={}, out_args={"Id": "SystemUpdateID"})
    async def system_update_id(self) -> dict[str, Any]:
        return {"Id": self.state_variable("SystemUpdateID")}


class _Connections(_Service):
    """ConnectionManager:1, section 2.4: what is given, and that there is one connection without an end."""

    SERVICE_DEFINITION = _service("ConnectionManager")
    STATE_VARIABLE_DEFINITIONS: Mapping[str, StateVariableTypeInfo] = {
        "SourceProtocolInfo": create_event_var("string", default=",".join(GIVEN)),
        "SinkProtocolInfo": create_event_var("string", default=""),
        "CurrentConnectionIDs": create_event_var("string", default="0"),
        "A_ARG_TYPE_ConnectionStatus": create_state_var("string", allowed=["OK", "Unknown"], default="OK"),
        "A_ARG_TYPE_ConnectionManager": create_state_var("string", default=""),
        "A_ARG_TYPE_Direction": create_state_var("string", allowed=["Input", "Output"], default="Output"),
        "A_ARG_TYPE_ProtocolInfo": create_state_var("string", default=""),
        "A_ARG_TYPE_ConnectionID": create_state_var("i4", default="-1"),
        "A_ARG_TYPE_AVTransportID": create_state_var("i4", default="-1"),
        "A_ARG_TYPE_RcsID": create_state_var("i4", default="-1"),
    }

    @callable_action(
        "GetProtocolInfo", in_args={}, out_args={"Source": "SourceProtocolInfo", "Sink": "SinkProtocolInfo"}
    )
    async def protocols(self) -> dict[str, Any]:
        return {
            "Source": self.state_variable("SourceProtocolInfo"),
            "Sink": self.state_variable("SinkProtocolInfo"),
        }

    @callable_action("GetCurrentConnectionIDs", in_args={}, out_args={"ConnectionIDs": "CurrentConnectionIDs"})
    async def connections(self) -> dict[str, Any]:
        return {"ConnectionIDs": self.state_variable("CurrentConnectionIDs")}

    @callable_action(
        "GetCurrentConnectionInfo",
        in_args={"ConnectionID": "A_ARG_TYPE_ConnectionID"},
        out_args={
            "RcsID": "A_ARG_TYPE_RcsID",
            "AVTransportID": "A_ARG_TYPE_AVTransportID",
            "ProtocolInfo": "A_ARG_TYPE_ProtocolInfo",
            "PeerConnectionManager": "A_ARG_TYPE_ConnectionManager",
            "PeerConnectionID": "A_ARG_TYPE_ConnectionID",
            "Direction": "A_ARG_TYPE_Direction",
            "Status": "A_ARG_TYPE_ConnectionStatus",
        },
    )
    async def connection(self, ConnectionID: int) -> dict[str, Any]:
        return {
            "RcsID": -1,
            "AVTransportID": -1,
            "ProtocolInfo": "",
            "PeerConnectionManager": "",
            "PeerConnectionID": -1,
            "Direction": "Output",
            "Status": "OK",
        }


def make_server(uid: UUID, name: str, host: str, port: int, base: str) -> UpnpServer:
    """Of this installation, not started yet: ``host`` is this machine's own address, ``base`` that of the files."""

    directory = type("Directory", (_Directory,), {"base": base})

    class Device(UpnpServerDevice):
        DEVICE_DEFINITION = DeviceInfo(
            device_type="urn:schemas-upnp-org:device:MediaServer:1",
            friendly_name=name,
            manufacturer="Rheon",
            manufacturer_url=None,
            model_name="Rheon",
            model_url=None,
            udn=f"uuid:{uid}",
            upc=None,
            model_description="Files that were made for the devices of this home",
            model_number=version("rheon"),
            serial_number=None,
            presentation_url=None,
            url="/device.xml",
            icons=[],
            xml=ET.Element("device"),
        )
        EMBEDDED_DEVICES = ()
        SERVICES = (directory, _Connections)

    # a number that is larger each time it starts (UPnP Device Architecture 1.1, section 1.2.2)
    return UpnpServer(Device, (host, 0), http_port=port, boot_id=int(time.time()))
