"""The OpenAPI document's components: every document that an address takes or gives, drawn from its class."""

from __future__ import annotations

from typing import Any, get_args, get_origin

from drf_spectacular.utils import OpenApiParameter
from pydantic import BaseModel
from pydantic.json_schema import GenerateJsonSchema, JsonSchemaMode, models_json_schema

from .documents import MOST_ID, Body, Query

REF = "#/components/schemas/{model}"
_declared: dict[type[BaseModel], JsonSchemaMode] = {}


class _Plain(GenerateJsonSchema):
    """Without a title for each field, which says its name again."""

    def field_title_should_be_set(self, schema: Any) -> bool:
        return False


def declared(kind: Any) -> dict[str, Any]:
    """A reference to a document or a list of documents, which stands among the components from now on."""
    if get_origin(kind) is list:
        return {"type": "array", "items": declared(get_args(kind)[0])}
    _declared[kind] = "validation" if issubclass(kind, Body) else "serialization"
    return {"$ref": REF.format(model=kind.__name__)}


def parameters(kind: type[Query]) -> list[OpenApiParameter]:
    """What an address takes behind the question mark."""
    schema = kind.model_json_schema(ref_template=REF, schema_generator=_Plain)
    defined = schema.get("$defs", {})
    return [
        OpenApiParameter(name, _inlined(field, defined), required=name in schema.get("required", ()))
        for name, field in schema["properties"].items()
    ]


def add_components(result: dict[str, Any], **_: Any) -> dict[str, Any]:
    """Put every declared document among the components. Two of one name are a mistake here."""
    models = sorted(_declared.items(), key=lambda item: item[0].__name__)
    drawn = models_json_schema(models, ref_template=REF, schema_generator=_Plain)[1]
    components: dict[str, Any] = drawn["$defs"]
    if twice := [name for name in components if "__" in name]:
        raise ValueError(f"Documents of the same name: {', '.join(twice)}.")
    result["components"]["schemas"] = dict(sorted(components.items()))
    return result


def bound_path_numbers(result: dict[str, Any], **_: Any) -> dict[str, Any]:
    """Tell in the OpenAPI document which numbers an address takes."""
    for operations in result["paths"].values():
        for operation in operations.values():
            for parameter in operation.get("parameters", []):
                if parameter["in"] == "path" and parameter["schema"].get("type") == "integer":
                    parameter["schema"] |= {"minimum": 0, "maximum": MOST_ID}
    return result


def _inlined(field: Any, defined: dict[str, Any]) -> Any:
    """The schema with what it refers to put in: parameters stand outside of the components."""
    if isinstance(field, list):
        return [_inlined(one, defined) for one in field]
    if not isinstance(field, dict):
        return field
    if "$ref" in field:
        return _inlined(defined[field["$ref"].rpartition("/")[2]], defined)
    return {key: _inlined(value, defined) for key, value in field.items()}
