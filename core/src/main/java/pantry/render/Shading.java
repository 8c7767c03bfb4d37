package pantry.render;

import org.jspecify.annotations.Nullable;
import pantry.base.math.Vec3;
import pantry.model.Texture;

/** Gives each pixel its colour: the surface that its ray meets, or the ground with its shadow and grid. */
final class Shading {
    private static final float KEY_X = 0.42f;
    private static final float KEY_Y = 0.78f;
    private static final float KEY_Z = 0.46f;

    private final DrawInstance[] uses;
    private final int width;
    private final int height;
    private final RenderOptions options;
    private final float[] depth;
    private final int[] use;
    private final int[] triangle;
    private final int[] dots;
    private final Vec3 eye;
    private final Vec3 right;
    private final Vec3 up;
    private final Vec3 forward;
    private final double focal;
    private final double perFocal;
    private final double middleX;
    private final double middleY;
    private final @Nullable Lighting lighting;
    private final GroundShading ground;

    /** @param buffers what is seen at each pixel; of those that see a dot, the colour too */
    Shading(RenderScene scene, ContactShadow shadow, Camera camera, FrameBuffers buffers, RenderOptions options) {
        this.dots = buffers.argb;
        this.uses = scene.instances.toArray(DrawInstance[]::new);
        this.width = buffers.width;
        this.height = buffers.height;
        this.options = options;
        this.depth = buffers.depth;
        this.use = buffers.use;
        this.triangle = buffers.triangle;
        this.eye = camera.eye();
        this.right = camera.right();
        this.up = camera.up();
        this.forward = camera.back().times(-1);
        this.focal = camera.focal(height);
        this.perFocal = 1 / focal;
        this.middleX = width / 2.0;
        this.middleY = height / 2.0;
        this.lighting = scene.lighting().orElse(null);
        this.ground = new GroundShading(shadow, camera, height, options, lighting);
    }

    /** @param row what one thread works with; what triangles have in common holds for the whole picture */
    void row(RowScratch row, int y, int[] argb, int[] ids) {
        for (int x = 0; x < width; x++) {
            int pixel = y * width + x;
            ids[pixel] = use[pixel] < 0 ? -1 : uses[use[pixel]].owner();
            argb[pixel] = shade(row, x + 0.5, y + 0.5, pixel);
        }
    }

    /** A row of a picture of half the size: each pixel from a block of four, of which each triangle is shaded once. */
    void blocks(RowScratch row, int y, int[] argb, int[] ids) {
        int half = width / 2;
        for (int x = 0; x < half; x++) {
            int at = 2 * y * width + 2 * x;
            int below = at + width;
            ids[y * half + x] = use[at] < 0 ? -1 : uses[use[at]].owner();
            if (isSame(at + 1, at) && isSame(below, at) && isSame(below + 1, at)) {
                float middle = (depth[at] + depth[at + 1] + depth[below] + depth[below + 1]) / 4;
                argb[y * half + x] = shade(row, 2 * x + 1, 2 * y + 1, at, middle);
            } else {
                argb[y * half + x] = mixed(row, 2 * x, 2 * y);
            }
        }
    }

    /**
     * The colour of a block of four pixels that see different things: each is shaded once, in the middle of what is seen of it.
     *
     * @param x with {@code y} its left upper pixel
     */
    private int mixed(RowScratch row, int x, int y) {
        int[] colours = row.four;
        int shaded = 0;
        for (int i = 0; i < 4; i++) {
            if ((shaded >> i & 1) != 0) {
                continue;
            }
            int pixel = (y + (i >> 1)) * width + x + (i & 1);
            int same = 0;
            int right = 0;
            int down = 0;
            int count = 0;
            float nearness = 0;
            for (int j = i; j < 4; j++) {
                int other = (y + (j >> 1)) * width + x + (j & 1);
                if (isSame(pixel, other)) {
                    same |= 1 << j;
                    right += j & 1;
                    down += j >> 1;
                    nearness += depth[other];
                    count++;
                }
            }
            int colour = shade(
                    row, x + 0.5 + (double) right / count, y + 0.5 + (double) down / count, pixel, nearness / count);
            for (int j = i; j < 4; j++) {
                colours[j] = (same >> j & 1) != 0 ? colour : colours[j];
            }
            shaded |= same;
        }
        return Frame.mean(colours[0], colours[1], colours[2], colours[3]);
    }

    /** Whether two pixels see the same triangle, or the ground. */
    private boolean isSame(int one, int other) {
        return use[one] == use[other] && (use[one] < 0 || triangle[one] == triangle[other]);
    }

    private int shade(RowScratch row, double x, double y, int pixel) {
        return shade(row, x, y, pixel, depth[pixel]);
    }

    /**
     * @param x with {@code y} a place in the picture, in pixels from its left upper corner
     * @param pixel that tells what is seen there
     */
    private int shade(RowScratch row, double x, double y, int pixel, float nearness) {
        int face = triangle[pixel];
        int seen = use[pixel];
        if (seen >= 0 && face == DrawInstance.DOT) {
            return dots[pixel];
        }
        double u = (x - middleX) * perFocal;
        double v = (middleY - y) * perFocal;
        double dx = forward.x() + right.x() * u + up.x() * v;
        double dy = forward.y() + right.y() * u + up.y() * v;
        double dz = forward.z() + right.z() * u + up.z() * v;
        if (seen < 0) {
            return ground.colour(row, dx, dy, dz);
        }
        DrawInstance used = uses[seen];
        RowScratch.Facing facing = row.facing(face);
        if (facing.use != seen || facing.triangle != face) {
            setUp(facing, used, seen, face);
        }
        return surface(row, facing, used, dx, dy, dz, 1 / nearness);
    }

    /**
     * The colour of what is so far that it is a dot.
     *
     * @param x with y and z where it is in the camera's space
     */
    int dot(RowScratch row, DrawInstance used, double x, double y, double z) {
        double dx = right.x() * x + up.x() * y + forward.x() * z;
        double dy = right.y() * x + up.y() * y + forward.y() * z;
        double dz = right.z() * x + up.z() * y + forward.z() * z;
        double view = Math.sqrt(dx * dx + dy * dy + dz * dz);
        double side = used.nx() * dx + used.ny() * dy + used.nz() * dz > 0 ? -1 : 1;
        RenderMaterial surface = used.surface();
        SurfacePoint point = row.point;
        point.set(surface);
        float[] base = point.base;
        Image image = surface.image();
        if (image != null && used.uvs() != null) {
            image.sample(0.5f, 0.5f, image.texels(), true, base);
            base[0] *= surface.r();
            base[1] *= surface.g();
            base[2] *= surface.b();
        }
        SurfaceMaps maps = surface.maps();
        if (maps != null) {
            int typical = used.mesh().typical;
            point.place(used.mesh(), typical, typical, typical, 1, 0, 0);
            point.look(maps, 1);
        }
        float[] colours = used.mesh().colours;
        if (colours != null && surface.coloured()) {
            for (int i = 0; i < 3; i++) {
                base[i] *= colours[3 * used.mesh().typical + i];
            }
        }
        double nx = used.nx() * side;
        double ny = used.ny() * side;
        double nz = used.nz() * side;
        return lighting == null
                ? lit(point, nx, ny, nz, dx / view, dy / view, dz / view)
                : lamplit(
                        row,
                        lighting,
                        new Vec3(eye.x() + dx, eye.y() + dy, eye.z() + dz),
                        new Vec3(nx, ny, nz),
                        new Vec3(dx / view, dy / view, dz / view));
    }

    private void setUp(RowScratch.Facing facing, DrawInstance used, int useNumber, int number) {
        facing.use = useNumber;
        facing.triangle = number;
        RenderMesh mesh = used.mesh();
        Vec3 a = vertex(used, mesh.indices[3 * number]);
        Vec3 b = vertex(used, mesh.indices[3 * number + 1]);
        Vec3 c = vertex(used, mesh.indices[3 * number + 2]);
        // The intersection of T. Möller and B. Trumbore (1997) in triple products of which each has the ray's direction
        // once: what it is multiplied with is the same all over a triangle.
        Vec3 from = a.minus(eye);
        Vec3 e1 = b.minus(a);
        Vec3 e2 = c.minus(a);
        Vec3 normal = e1.cross(e2);
        set(facing.normal, normal);
        set(facing.toBeta, e2.cross(from));
        set(facing.toGamma, from.cross(e1));
        SurfaceMaps maps = used.surface().maps();
        if (maps != null) {
            setUp(facing, maps, mesh, number, e1, e2, normal.length());
        }
        Image image = used.surface().image();
        float[] uvs = used.uvs();
        facing.texelsPerMetre = 0;
        if (image != null && uvs != null) {
            int ia = 2 * mesh.indices[3 * number];
            int ib = 2 * mesh.indices[3 * number + 1];
            int ic = 2 * mesh.indices[3 * number + 2];
            double uvArea = Math.abs((uvs[ib] - uvs[ia]) * (uvs[ic + 1] - uvs[ia + 1])
                    - (uvs[ib + 1] - uvs[ia + 1]) * (uvs[ic] - uvs[ia]));
            facing.texelsPerMetre = Math.sqrt(uvArea / Math.max(1e-30, normal.length())) * image.texels();
        }
    }

    /**
     * How the images beside that of the colour lie on a triangle; the tangents are the triangle's own, while baking programs
     * spread them over the corners.
     *
     * @param area of the triangle, twice
     */
    private static void setUp(
            RowScratch.Facing facing, SurfaceMaps maps, RenderMesh mesh, int number, Vec3 e1, Vec3 e2, double area) {
        SurfaceMap relief = maps.relief();
        float[] uvs = mesh.uvs(relief == null ? 0 : relief.uvSet());
        facing.uvPerMetre = 0;
        set(facing.tangent, Vec3.ZERO);
        set(facing.bitangent, Vec3.ZERO);
        if (uvs == null) {
            return;
        }
        int ia = 2 * mesh.indices[3 * number];
        int ib = 2 * mesh.indices[3 * number + 1];
        int ic = 2 * mesh.indices[3 * number + 2];
        double u1 = uvs[ib] - uvs[ia];
        double v1 = uvs[ib + 1] - uvs[ia + 1];
        double u2 = uvs[ic] - uvs[ia];
        double v2 = uvs[ic + 1] - uvs[ia + 1];
        double turned = u1 * v2 - u2 * v1;
        facing.uvPerMetre = Math.sqrt(Math.abs(turned) / Math.max(1e-30, area));
        if (turned != 0) {
            set(facing.tangent, e1.times(v2 / turned).minus(e2.times(v1 / turned)));
            set(facing.bitangent, e2.times(u1 / turned).minus(e1.times(u2 / turned)));
        }
    }

    private static void set(double[] into, Vec3 v) {
        into[0] = v.x();
        into[1] = v.y();
        into[2] = v.z();
    }

    private static Vec3 vertex(DrawInstance used, int vertex) {
        float[] p = used.mesh().positions;
        return used.world().point(p[3 * vertex], p[3 * vertex + 1], p[3 * vertex + 2]);
    }

    private int surface(
            RowScratch row,
            RowScratch.Facing face,
            DrawInstance used,
            double dx,
            double dy,
            double dz,
            double distance) {
        // Where the ray meets the triangle, in its own coordinates.
        double facing = face.normal[0] * dx + face.normal[1] * dy + face.normal[2] * dz;
        double inverse = facing == 0 ? 0 : 1 / facing;
        double beta = (face.toBeta[0] * dx + face.toBeta[1] * dy + face.toBeta[2] * dz) * inverse;
        double gamma = (face.toGamma[0] * dx + face.toGamma[1] * dy + face.toGamma[2] * dz) * inverse;
        beta = beta > 0 ? Math.min(beta, 1) : 0;
        gamma = gamma > 0 ? Math.min(gamma, 1 - beta) : 0;
        RenderMesh mesh = used.mesh();
        int ia = mesh.indices[3 * face.triangle];
        int ib = mesh.indices[3 * face.triangle + 1];
        int ic = mesh.indices[3 * face.triangle + 2];
        double nx = face.normal[0];
        double ny = face.normal[1];
        double nz = face.normal[2];
        if (!options.flat()) {
            float fb = (float) beta;
            float fc = (float) gamma;
            float fa = 1 - fb - fc;
            float[] n = mesh.normals;
            float lx = n[3 * ia] * fa + n[3 * ib] * fb + n[3 * ic] * fc;
            float ly = n[3 * ia + 1] * fa + n[3 * ib + 1] * fb + n[3 * ic + 1] * fc;
            float lz = n[3 * ia + 2] * fa + n[3 * ib + 2] * fb + n[3 * ic + 2] * fc;
            float[] m = used.normalMatrix();
            nx = lx * m[0] + ly * m[3] + lz * m[6];
            ny = lx * m[1] + ly * m[4] + lz * m[7];
            nz = lx * m[2] + ly * m[5] + lz * m[8];
        }
        double perView = 1 / Math.sqrt(dx * dx + dy * dy + dz * dz);
        // Both sides are shown: a face that is seen from behind is lit as if turned round.
        boolean fromBehind = facing > 0;
        boolean againstFace = face.normal[0] * nx + face.normal[1] * ny + face.normal[2] * nz < 0;
        double side = fromBehind == againstFace ? 1 : -1;
        // At the outline of what is round, the normal between corners may lean away from the eye; it leans no further
        // than
        // the outline itself.
        double away = Math.max(0, side * (nx * dx + ny * dy + nz * dz)) * perView * perView;
        nx = side * nx - away * dx;
        ny = side * ny - away * dy;
        nz = side * nz - away * dz;
        double length = Math.sqrt(nx * nx + ny * ny + nz * nz);
        double scale = length == 0 ? 0 : 1 / length;
        nx *= scale;
        ny *= scale;
        nz *= scale;
        RenderMaterial surface = used.surface();
        SurfacePoint point = row.point;
        point.set(surface);
        float[] base = point.base;
        float[] uvs = used.uvs();
        Image image = surface.image();
        double alpha = 1 - beta - gamma;
        if (image != null && uvs != null) {
            float u = (float) (uvs[2 * ia] * alpha + uvs[2 * ib] * beta + uvs[2 * ic] * gamma);
            float v = (float) (uvs[2 * ia + 1] * alpha + uvs[2 * ib + 1] * beta + uvs[2 * ic + 1] * gamma);
            Texture.Sampling lying = surface.sampling();
            image.sample(
                    SurfaceMap.wrapped(u, lying.wrapS()),
                    SurfaceMap.wrapped(v, lying.wrapT()),
                    face.texelsPerMetre * distance * perFocal,
                    true,
                    base);
            base[0] *= surface.r();
            base[1] *= surface.g();
            base[2] *= surface.b();
        }
        float[] colours = mesh.colours;
        if (colours != null && surface.coloured()) {
            for (int i = 0; i < 3; i++) {
                base[i] *= (float)
                        (colours[3 * ia + i] * alpha + colours[3 * ib + i] * beta + colours[3 * ic + i] * gamma);
            }
        }
        SurfaceMaps maps = surface.maps();
        if (maps != null) {
            point.place(mesh, ia, ib, ic, alpha, beta, gamma);
            point.look(maps, face.uvPerMetre * distance * perFocal);
            if (maps.relief() != null) {
                if (maps.height() != null) {
                    steepen(face, point);
                }
                double[] bent = row.normal;
                bend(face, point.bent, nx, ny, nz, side, bent);
                nx = bent[0];
                ny = bent[1];
                nz = bent[2];
            }
        }
        if (lighting == null) {
            return lit(point, nx, ny, nz, dx * perView, dy * perView, dz * perView);
        }
        return lamplit(
                row,
                lighting,
                new Vec3(eye.x() + dx * distance, eye.y() + dy * distance, eye.z() + dz * distance),
                new Vec3(nx, ny, nz),
                new Vec3(dx * perView, dy * perView, dz * perView));
    }

    /** Has the slopes of heights as a normal map would say them (Blinn, Simulation of wrinkled surfaces, 1978). */
    private static void steepen(RowScratch.Facing face, SurfacePoint point) {
        point.bent[0] = -point.rise[0] / metres(face.tangent);
        point.bent[1] = -point.rise[1] / metres(face.bitangent);
    }

    /** How long a unit of coordinates is on the surface; never nothing. */
    private static float metres(double[] along) {
        return (float) Math.max(1e-6, Math.sqrt(along[0] * along[0] + along[1] * along[1] + along[2] * along[2]));
    }

    /**
     * Bends a normal as a normal map says.
     *
     * @param slopes along the image's own axes
     * @param side -1 where the surface is seen from behind
     * @param bent receives the unit normal
     */
    private static void bend(
            RowScratch.Facing face, float[] slopes, double nx, double ny, double nz, double side, double[] bent) {
        bent[0] = nx * slopes[2];
        bent[1] = ny * slopes[2];
        bent[2] = nz * slopes[2];
        lean(bent, face.tangent, side * slopes[0], nx, ny, nz);
        lean(bent, face.bitangent, side * slopes[1], nx, ny, nz);
        double length = Math.sqrt(bent[0] * bent[0] + bent[1] * bent[1] + bent[2] * bent[2]);
        bent[0] = length == 0 ? nx : bent[0] / length;
        bent[1] = length == 0 ? ny : bent[1] / length;
        bent[2] = length == 0 ? nz : bent[2] / length;
    }

    /** Adds what lies along a direction in the plane off which a normal stands; nothing where it is the normal's own. */
    private static void lean(double[] bent, double[] along, double by, double nx, double ny, double nz) {
        double off = along[0] * nx + along[1] * ny + along[2] * nz;
        double x = along[0] - off * nx;
        double y = along[1] - off * ny;
        double z = along[2] - off * nz;
        double length = Math.sqrt(x * x + y * y + z * z);
        if (length > 0) {
            bent[0] += by * x / length;
            bent[1] += by * y / length;
            bent[2] += by * z / length;
        }
    }

    /** In the light of the scene's lamps; what metals mirror beside them is as bright as what falls on them. */
    private static int lamplit(RowScratch row, Lighting lighting, Vec3 at, Vec3 normal, Vec3 look) {
        SurfacePoint point = row.point;
        double rough = point.roughness;
        double metal = point.metallic;
        lighting.on(
                at.x(),
                at.y(),
                at.z(),
                normal.x(),
                normal.y(),
                normal.z(),
                look.x(),
                look.y(),
                look.z(),
                rough,
                row.light,
                row.shine);
        double edge = 1 - Math.min(1, Math.max(0, -normal.dot(look)));
        double grazing = edge * edge * edge * edge;
        double fresnel = 0.04 * point.reflectance + 0.5 * (1 - rough) * grazing;
        double coat = point.clearcoat * (0.04 + 0.5 * (1 - point.clearcoatRoughness) * grazing);
        double strength = (1 - rough) * (1 - rough) * 1.4;
        double[] shown = {point.emissive[0], point.emissive[1], point.emissive[2]};
        for (int i = 0; i < 3; i++) {
            double body = point.base[i] * row.light[i] * point.occlusion;
            double gloss = strength * row.shine[i];
            shown[i] += body
                    + gloss * (metal * point.base[i] + (1 - metal) * 0.35 * point.reflectance)
                    + (fresnel * (1 - metal) + coat) * row.light[i] * point.occlusion;
        }
        return DisplayColours.pack(Lighting.pressed(shown[0]), Lighting.pressed(shown[1]), Lighting.pressed(shown[2]));
    }

    /** A key light, light from the sky and the floor, a soft highlight; metals show the room in their own colour. */
    private static int lit(SurfacePoint point, double nx, double ny, double nz, double dx, double dy, double dz) {
        double key = nx * KEY_X + ny * KEY_Y + nz * KEY_Z;
        double wrapped = Math.max(0, (key + 0.25) * (1 / 1.25));
        double sky = 0.5 + 0.5 * ny;
        double head = Math.max(0, -(nx * dx + ny * dy + nz * dz));
        double around = 0.32 * sky + 0.08 * (1 - sky) + 0.12 * head;
        double diffuse = 0.78 * wrapped + around * point.occlusion;
        double metal = point.metallic;
        double rough = Math.max(0.08, point.roughness);
        double hx = KEY_X - dx;
        double hy = KEY_Y - dy;
        double hz = KEY_Z - dz;
        double gloss = highlight(rough, nx, ny, nz, hx, hy, hz);
        // What a metal would mirror: bright above, darker towards the floor.
        double ry = dy + 2 * head * ny;
        double mirror = (0.30 + 0.85 * smooth((ry + 0.35) * (1 / 1.1))) * point.occlusion;
        double body = diffuse * (1 - 0.75 * metal) + mirror * 0.8 * metal;
        double edge = 1 - Math.min(1, head);
        double grazing = edge * edge * edge * edge;
        double fresnel = 0.25 * (1 - rough) * grazing;
        double shine = gloss * 0.35 * (1 - metal) * point.reflectance + fresnel;
        if (point.clearcoat > 0) {
            double coat = Math.max(0.08, point.clearcoatRoughness);
            shine += point.clearcoat
                    * (0.35 * highlight(coat, nx, ny, nz, hx, hy, hz) + 0.25 * (1 - coat) * grazing + 0.04 * mirror);
        }
        return DisplayColours.pack(
                point.base[0] * (body + gloss * metal) + shine + point.emissive[0],
                point.base[1] * (body + gloss * metal) + shine + point.emissive[1],
                point.base[2] * (body + gloss * metal) + shine + point.emissive[2]);
    }

    /** How strongly the key light is mirrored. */
    private static double highlight(double rough, double nx, double ny, double nz, double hx, double hy, double hz) {
        double strength = (1 - rough) * (1 - rough) * 1.4;
        return strength == 0 ? 0 : strength * Lighting.gloss(nx, ny, nz, hx, hy, hz, rough * rough);
    }

    private static double smooth(double t) {
        double c = t > 0 ? Math.min(t, 1) : 0;
        return c * c * (3 - 2 * c);
    }
}
