// The exported studio through a general-purpose renderer, driven through its programming interface: README.md.
//
//   java Traced studio.bin OUT AA...   for each AA in turn: 4^AA samples a pixel into OUT-AA.hdr, and a line "AA seconds";
//                                      AA -1 is a picture of a few pixels: what is not rendering
import java.io.DataInputStream;
import java.io.BufferedInputStream;
import java.io.FileInputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import org.sunflow.SunflowAPI;
import org.sunflow.core.display.FileDisplay;
import org.sunflow.math.Point3;
import org.sunflow.math.Vector3;
import org.sunflow.math.Matrix4;

public class Traced {
  public static void main(String[] args) throws Exception {
    for (int k = 2; k < args.length; ++k) {
      ByteBuffer in = ByteBuffer.wrap(Files.readAllBytes(Path.of(args[0]))).order(ByteOrder.LITTLE_ENDIAN);
      SunflowAPI api = new SunflowAPI();
      api.reset();
      int width = in.getInt(), height = in.getInt();
      Point3 eye = point(in), to = point(in);
      Point3 up = point(in);
      float fov = in.getFloat();
      api.parameter("transform", Matrix4.lookAt(eye, to, new Vector3(up.x, up.y, up.z)));
      api.parameter("fov", fov);
      api.parameter("aspect", (float) width / height);
      api.camera("camera", "pinhole");
      int meshes = in.getInt();
      for (int m = 0; m < meshes; ++m) {
        boolean lamp = in.getInt() != 0;
        float r = in.getFloat(), g = in.getFloat(), b = in.getFloat();
        float[] points = new float[in.getInt() * 3];
        for (int i = 0; i < points.length; ++i) points[i] = in.getFloat();
        int[] triangles = new int[in.getInt() * 3];
        for (int i = 0; i < triangles.length; ++i) triangles[i] = in.getInt();
        if (!lamp) {
          api.parameter("diffuse", null, r, g, b);
          api.shader("shader" + m, "diffuse");
        } else {
          api.parameter("radiance", null, r, g, b);
          api.parameter("samples", 1);
        }
        api.parameter("triangles", triangles);
        api.parameter("points", "point", "vertex", points);
        if (lamp) {
          api.light("lamp" + m, "triangle_mesh");
          continue;
        }
        api.geometry("mesh" + m, "triangle_mesh");
        api.parameter("shaders", "shader" + m);
        api.instance("mesh" + m + ".instance", "mesh" + m);
      }
      int aa = Integer.parseInt(args[k]);
      api.parameter("resolutionX", aa < 0 ? width / 32 : width);
      api.parameter("resolutionY", aa < 0 ? height / 32 : height);
      api.parameter("aa.min", aa);
      api.parameter("aa.max", aa);
      api.parameter("filter", "triangle");  // its box takes one sample of a pixel
      api.parameter("depths.diffuse", 1);
      api.parameter("depths.reflection", 0);
      api.parameter("depths.refraction", 0);
      api.parameter("gi.engine", "path");
      api.parameter("gi.path.samples", 1);
      api.parameter("camera", "camera");
      api.options(SunflowAPI.DEFAULT_OPTIONS);
      long start = System.nanoTime();
      api.render(SunflowAPI.DEFAULT_OPTIONS, new FileDisplay(args[1] + "-" + aa + ".hdr"));
      System.out.println(aa + " " + (System.nanoTime() - start) / 1e9);
      System.out.flush();
    }
  }
  static Point3 point(ByteBuffer in) { return new Point3(in.getFloat(), in.getFloat(), in.getFloat()); }
}
