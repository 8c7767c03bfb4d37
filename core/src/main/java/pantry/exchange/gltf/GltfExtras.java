package pantry.exchange.gltf;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import pantry.model.CustomValue;
import tools.jackson.databind.JsonNode;

/** What a glTF file says beyond its format: {@code extras} of its nodes, meshes, materials, scenes and of the whole (glTF 2.0, 3.12). */
final class GltfExtras {
    /** The names of shapes, which are read as such. */
    private static final String SHAPE_NAMES = "targetNames";

    private static final String PLAIN = "extras";

    private final List<CustomValue> values = new ArrayList<>();

    private GltfExtras() {}

    /** @param nodeNames what nodes are called here */
    static List<CustomValue> of(JsonNode root, Map<Integer, String> nodeNames) {
        GltfExtras extras = new GltfExtras();
        extras.add("", root.path("asset"));
        extras.add("", root);
        root.path("scenes").forEach(scene -> extras.add("", scene));
        Set<Integer> meshes = new HashSet<>();
        for (int i = 0; i < root.path("nodes").size(); i++) {
            JsonNode node = root.path("nodes").path(i);
            String name = nodeNames.getOrDefault(i, node.path("name").asString(""));
            extras.add(name, node);
            int mesh = node.path("mesh").asInt(-1);
            if (mesh >= 0 && meshes.add(mesh)) {
                extras.add(name, root.path("meshes").path(mesh));
            }
        }
        root.path("materials")
                .forEach(material -> extras.add(material.path("name").asString(""), material));
        return extras.values;
    }

    private void add(String object, JsonNode of) {
        JsonNode extras = of.path(PLAIN);
        if (extras.isObject()) {
            extras.propertyStream()
                    .filter(each -> !each.getKey().equals(SHAPE_NAMES))
                    .forEach(each -> add(object, each.getKey(), each.getValue()));
        } else if (!extras.isMissingNode() && !extras.isNull()) {
            add(object, PLAIN, extras);
        }
    }

    private void add(String object, String name, JsonNode value) {
        if (values.size() < CustomValue.MOST) {
            values.add(new CustomValue(object, name, plain(value)));
        }
    }

    private static Object plain(JsonNode value) {
        if (value.isString()) {
            return value.asString();
        }
        if (value.isBoolean()) {
            return value.asBoolean();
        }
        return value.isNumber() ? (Object) value.asDouble() : value.toString();
    }

    /** Values by the objects that they are said of, to be taken once each. */
    static final class Waiting {
        private final Map<String, Map<String, Object>> byObject = new LinkedHashMap<>();

        Waiting(List<CustomValue> values) {
            values.forEach(each -> byObject.computeIfAbsent(each.object(), object -> new LinkedHashMap<>())
                    .put(each.name(), each.value()));
        }

        Optional<Map<String, Object>> take(String object) {
            return Optional.ofNullable(byObject.remove(object));
        }

        /** Those of what is not written, under the names of both. */
        Map<String, Object> rest() {
            Map<String, Object> rest = new LinkedHashMap<>();
            byObject.forEach((object, values) ->
                    values.forEach((name, value) -> rest.put(object.isEmpty() ? name : object + " " + name, value)));
            byObject.clear();
            return rest;
        }
    }
}
